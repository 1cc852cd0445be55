import { PLAIN_PRINTER, plainFilament, sharesNozzle, type Filament, type Printer } from '../bench'
import { UPRIGHT, type Pose } from '../mesh'
import type { Zone } from '../overhang'
import type { StackMode } from '../stack'

/** Every choice of a plan. Filaments are named; the document brings their facts. */
export type Decisions = {
  readonly layerHeightMm: number
  readonly firstLayerHeightMm: number
  readonly lineWidthMm: number
  readonly walls: number
  readonly fillDensity: number
  readonly skinLayers: number
  readonly partFilament: string
  readonly standFilament: string
  readonly interfaceFilament: string
  /** Whether anything is held at all. */
  readonly supports: boolean
  /** From vertical. */
  readonly freeAngleDeg: number
  /** Limits of the eight sides, clockwise from north (+y), from vertical; null when the free angle counts for all. */
  readonly sideAnglesDeg: readonly number[] | null
  /** Longest bridge that stays free; 0 holds them all. */
  readonly freeSpanMm: number
  readonly placement: 'bed' | 'anywhere'
  readonly upperGapMm: number
  readonly lowerGapMm: number
  readonly sideGapMm: number
  readonly marginMm: number
  readonly interfaceLayers: number
  readonly interfaceSpacingMm: number
  readonly interfaceDirection: 'across' | 'along'
  readonly stackMode: StackMode
  readonly standDensity: number
  readonly footingLines: number
  readonly purgeMm3: number
  /** Cooling while the part is printed. */
  readonly fanPercent: number
}

/** Lowest and highest value that a plan can work with, and the step of an arrow key. */
export const DECISION_RANGES = {
  layerHeightMm: [0.04, 1.2, 0.02],
  firstLayerHeightMm: [0.04, 1.2, 0.02],
  lineWidthMm: [0.1, 2.5, 0.01],
  walls: [1, 20, 1],
  fillDensity: [0, 1, 0.01],
  skinLayers: [0, 50, 1],
  freeAngleDeg: [5, 89, 1],
  freeSpanMm: [0, 200, 1],
  upperGapMm: [0, 2, 0.01],
  lowerGapMm: [0, 5, 0.05],
  sideGapMm: [0, 10, 0.05],
  marginMm: [0, 10, 0.1],
  interfaceLayers: [0, 20, 1],
  interfaceSpacingMm: [0, 10, 0.05],
  standDensity: [0.02, 1, 0.01],
  footingLines: [0, 30, 1],
  purgeMm3: [0, 3000, 10],
  fanPercent: [0, 100, 5],
} as const satisfies Partial<Record<keyof Decisions, readonly [number, number, number]>>

export type NumberDecision = keyof typeof DECISION_RANGES

/** Where a value comes from. Values without evidence are the maker's own wish. */
export type Evidence = {
  readonly source: 'measured' | 'transferred' | 'guess'
  /** What the evidence says; the decision may have moved away from it. */
  readonly value: number
  readonly low: number | null
  readonly high: number | null
  readonly readings: number
  readonly trials: readonly { readonly id: string; readonly name: string }[]
  readonly sentence: string
  readonly mismatches: readonly string[]
  /** Day of the newest trial behind it. */
  readonly newest: string | null
  /** Limits of the eight sides, for the free angle only, when a fan was read on several. */
  readonly sidesDeg?: readonly number[]
  /** P(tender) over the gap, for the upper gap only. */
  readonly tender?: { readonly gapsMm: readonly number[]; readonly chance: readonly number[] }
}

/** Values that trials can speak for. */
export const SPOKEN_FOR = ['freeAngleDeg', 'freeSpanMm', 'upperGapMm', 'purgeMm3'] as const
export type SpokenFor = (typeof SPOKEN_FOR)[number]
export type PlanEvidence = { readonly [D in SpokenFor]?: Evidence }

/** A plan as saved, exported and read by the command line. */
export type PlanDocument = {
  readonly format: 'tender-plan'
  readonly version: 1
  readonly name: string
  readonly pose: Pose
  readonly decisions: Decisions
  readonly printer: Printer
  readonly filaments: readonly Filament[]
  readonly evidence: PlanEvidence
  /** The maker's marks on the part: where to hold, where never. */
  readonly zones: readonly Zone[]
  /** What each body of the file is; bodies beyond the list are part. */
  readonly bodies: readonly BodyRole[]
}

/** What a body of a file is for. */
export const BODY_ROLES = ['part', 'stand', 'hold', 'keepOff'] as const
export type BodyRole = (typeof BODY_ROLES)[number]

const PART = plainFilament('Part PLA', 'PLA', '#a5a8b4')

export const DEFAULT_DECISIONS: Decisions = {
  layerHeightMm: 0.2,
  firstLayerHeightMm: 0.2,
  lineWidthMm: 0.45,
  walls: 2,
  fillDensity: 0.15,
  skinLayers: 4,
  partFilament: PART.name,
  standFilament: PART.name,
  interfaceFilament: PART.name,
  supports: true,
  freeAngleDeg: 48,
  sideAnglesDeg: null,
  freeSpanMm: 10,
  placement: 'bed',
  upperGapMm: 0.2,
  lowerGapMm: 0.2,
  sideGapMm: 0.6,
  marginMm: 0.4,
  interfaceLayers: 3,
  interfaceSpacingMm: 0,
  interfaceDirection: 'across',
  stackMode: 'own',
  standDensity: 0.12,
  footingLines: 2,
  purgeMm3: 15,
  fanPercent: 100,
}

export const DEFAULT_PLAN: PlanDocument = {
  format: 'tender-plan',
  version: 1,
  name: 'Plan',
  pose: UPRIGHT,
  decisions: DEFAULT_DECISIONS,
  printer: PLAIN_PRINTER,
  filaments: [PART],
  evidence: {},
  zones: [],
  bodies: [],
}

/** Purge per swap that a printer starts from: a shared nozzle must be flushed, a nozzle of its own only primed. */
export const startingPurgeMm3 = (printer: Printer): number => (sharesNozzle(printer) ? 200 : 15)
