export { judgeOptionsOf, partBody, roleOf } from './bodyRoles'
export { changePlan } from './changePlan'
export type { BenchFacts, PlanChange } from './changePlan'
export { addException, differsIn, letDiffer, touchFlatAlone, withinException } from './changeExceptions'
export { checkDocument } from './checkDocument'
export { DECISION_RANGES, leanBelow } from './decisions'
export type { Decisions, Holding, NumberDecision } from './decisions'
export {
  BODY_ROLES,
  bookOf,
  clingsOf,
  DEFAULT_DECISIONS,
  DEFAULT_PLAN,
  newDocument,
  startingPurgeMm3,
} from './document'
export type { BodyRole, NewDocument, PlanDocument } from './document'
export { SPOKEN_FOR } from './evidence'
export type { Evidence, PlanEvidence, SpokenFor } from './evidence'
export {
  branchesSomewhere,
  gapEvidenceUnder,
  holdingUnder,
  KIND_WORDS,
  leansSomewhere,
  undersidesOf,
} from './exceptions'
export type { Exception, Post, Where } from './exceptions'
export { fitsAhead } from './fitsAhead'
export { followEvidence, newerEvidence, startFromEvidence } from './followEvidence'
export { followedOf, NOTHING_LEARNT } from './learnt'
export type { Learnt } from './learnt'
export { farthestApartMm } from './linesApart'
export { leftoverLimit, leftoverShare, pullFromEvidence, suggest, tenderFromEvidence } from './suggest'
export type { SuggestInput } from './suggest'
export { upgradeDocument } from './upgradeDocument'
export { holdsAsMuch, nothingBeats, pairsOf, SUBJECTS, variationsOf } from './variations'
export type { Standing, Subject, Variation, VariationBench } from './variations'
