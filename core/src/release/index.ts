export type { Drain } from './drains'
export type { NeckBeside } from './necks'
export { bondToPart, releaseChain } from './releaseChain'
export type { Bond, ChainInput, ReleaseChain, Remedy } from './releaseChain'
export { bondSentence, followChance, reconciled, surelyFollows } from './reconciled'
export type { MeasuredRelease, SeenFollowing } from './reconciled'
export { insideOf } from './insideOf'
export { NOZZLE_PUSHES_N, steadinessOfStands, tippedByN, unsteadiness } from './steadiness'
export type { Section, Steadiness } from './steadiness'
export { ANY_TOOL_MM, roomAround, standGrid } from './standPieces'
export type { Room, StandGrid, StandPiece } from './standPieces'
export {
  isNarrow,
  NARROW_MM,
  NO_TOOL_MM,
  releaseCheck,
  SPECK_MM3,
  tornTimes,
  weakArms,
  weakNecks,
} from './releaseCheck'
export type { ReleaseCheck, StandCheck, StandSeen, StandVerdict, Touching } from './releaseCheck'
