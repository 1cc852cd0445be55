export { hullFaces, sphereDirections } from './hullFaces'
export type { HullFace } from './hullFaces'
export { createJudge, judgePose } from './judgePose'
export type { JudgeOptions, Judgement } from './judgePose'
export { massCentre } from './massCentre'
export {
  burdenOf,
  byBurden,
  CRITERIA,
  criterionOf,
  downOf,
  firstPoses,
  nextPoses,
  paretoBest,
  SEARCH_ROUNDS,
  searchPoses,
  shortlist,
} from './searchPoses'
export type { Criterion } from './searchPoses'
export { standingOf, standingSentence } from './standing'
export type { Standing } from './standing'
