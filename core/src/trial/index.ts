export { adviseNext } from './adviseNext'
export type { NextPrint } from './adviseNext'
export {
  COMPASS,
  COUPON_KINDS,
  couponGrid,
  FULL_COMPASS,
  readingsOf,
  STARTING_COUPONS,
  stepsOf,
} from './coupon'
export type { Coupon, CouponKind, CouponOf, PrintedAs, Readings, Step, StepReading } from './coupon'
export { FAN_DEFAULTS, fitFan } from './fitFan'
export type { FanFit, FanOptions, FreeAngle } from './fitFan'
export { fitGap, GAP_DEFAULTS, gapPriorOf, tenderAt, WEAK_GAP_PRIOR } from './fitGap'
export type { GapFit, GapOptions, GapPrior } from './fitGap'
export { correctedOffsetMm, fitOffset } from './fitOffset'
export type { AxisFit, OffsetFit } from './fitOffset'
export { fitPull, pullAt } from './fitPull'
export type { PullFit } from './fitPull'
export { fitPurge, gradeChance, PURGE_PURPOSES, purgeCurve } from './fitPurge'
export type { PurgeCurve, PurgeFit, PurgePurpose, SwapFit } from './fitPurge'
export { fitSpan, SPAN_DEFAULTS } from './fitSpan'
export type { SpanFit, SpanOptions } from './fitSpan'
export { samePrint, takeOffBehind, takeOffEvidenceId, trialsOf } from './knownTrial'
export type { KnownTrial, KnownTrialOf, Named, TrialConditions } from './knownTrial'
export { chanceAt } from './monotone'
export { matchCsv } from './matchCsv'
export { curveQuestion, nextSteps, purgeQuestion } from './nextSteps'
export type { Advice, Question } from './nextSteps'
export {
  adoptFits,
  fanFitOf,
  fitsAskedBy,
  gapFitOf,
  pullFitOf,
  purgeFitOf,
  spanFitOf,
} from './rememberedFits'
export type { RememberedFit } from './rememberedFits'
export { readTrialCsv } from './readCsv'
export type { CsvRefusal, CsvTrial } from './readCsv'
export {
  AXES,
  COMB_GRADES,
  FAN_GRADES,
  FINISH_GRADES,
  PURGE_GRADES,
  RELEASE_GRADES,
  SPAN_GRADES,
  SWAPS,
} from './readings'
export type {
  Axis,
  FanReading,
  GapReading,
  Grade,
  Interval,
  OffsetReading,
  PurgeReading,
  SpanReading,
  Swap,
} from './readings'
export {
  fanSentence,
  gapSentence,
  hedged,
  offsetSentence,
  pullSentence,
  purgeSentence,
  spanSentence,
} from './sentences'
export { whatIsMissing } from './whatIsMissing'
export { writeTrialCsv } from './writeCsv'
