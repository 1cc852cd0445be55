export { BED_HOLDS_N_MM2, bentByN, BRANCH_WALLS, NOZZLE_PUSHES_N } from './bending'
export { disc, roundLine } from './branching/section'
export { drawnStands } from './drawnStands'
export type { Drawn } from './drawnStands'
export { ringsAround } from './footing'
export { gapLevels, levelsOf } from './levels'
export type { Levels } from './levels'
export { outlinesOf } from './outlines'
export type { Outlines } from './outlines'
export { standSupports } from './standSupports'
export type { StandOutput } from './standSupports'
export type { HoldingRules, StandInput } from './standInput'
export { BRANCHES, STAND_KINDS } from './supports'
export type {
  Branches,
  Fill,
  Held,
  Rest,
  StandKind,
  SupportPass,
  SupportRole,
  Supports,
  UnheldReason,
} from './supports'
export { thickLayers } from './thickLayers'
export type { ThickRules } from './thickLayers'
