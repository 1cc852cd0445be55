export { createPlanner } from './planner'
export type { Needs, Planner, Progress } from './planner'
export { keptId, keptOutcomeOf, outcomeOf } from './outcome'
export type { Cuttable, KeptOutcome, Outcome } from './outcome'
export { filamentOfPass, plainPrint, planPrint } from './planPrint'
export { supportHeightsText } from './supportHeightsText'
export type {
  Contact,
  IslandReport,
  PlanGeometry,
  PlanResult,
  PlanSummary,
  Purges,
  Recut,
  Ribbon,
  TowerLaid,
} from './planResult'
export { printedOf } from './printed'
export { planRelease } from './release'
export type { PlanRelease, StandRelease } from './release'
export { dissolvingWays } from './remedies'
export type { PlanRemedy } from './remedies'
export { readingOf } from './reading'
export type { Reading } from './reading'
export type { Tracer } from './stage'
export { STAGES } from './stageNames'
export type { StageName } from './stageNames'
export { readsOf } from './stages'
export { suggestedDensity } from './standDensity'
export { footprintOf, layerViewAt, planBounds, reachAlong, sectionOf } from './views'
export type { LayerView, Section } from './views'
export { UNHELD_WORDS, WARNING_CODES } from './warnings'
export type { PlanWarning, PlanWarningCode } from './warnings'
