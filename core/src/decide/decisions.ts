import type { StandLines, InterfaceLines } from '../path'
import type { PurgePlan } from '../print'
import type { HoldingRules } from '../stand'

/**
 * Decisions of holding: those that an exception may make differently for some undersides. Filaments are named
 * by their identity.
 */
export type Holding = HoldingRules & {
  /** Whether anything is held at all. */
  readonly supports: boolean
  readonly standFilament: string
  readonly interfaceFilament: string
  readonly interfaceSpacingMm: number
  readonly interfaceLines: InterfaceLines
  readonly interfaceDirection: 'across' | 'along'
  readonly standLines: StandLines
  readonly standWalls: number
  readonly standDensity: number
  readonly denseTopDensity: number
  /** Stand layers twice as thick as the part's, where the nozzle can lay them. */
  readonly thickStands: boolean
}

/** Every choice of a plan. Filaments are named by their identity; the document brings their facts. */
export type Decisions = Holding & {
  readonly layerHeightMm: number
  readonly firstLayerHeightMm: number
  readonly lineWidthMm: number
  readonly walls: number
  readonly fillDensity: number
  readonly skinLayers: number
  readonly partFilament: string
  /** From vertical. */
  readonly freeAngleDeg: number
  /**
   * Limits of the eight sides, clockwise from north (+y), from vertical; null when the free angle counts for
   * all.
   */
  readonly sideAnglesDeg: readonly number[] | null
  /** Longest bridge that stays free; 0 holds them all. */
  readonly freeSpanMm: number
  /** Longest span that lines of supports are trusted with. */
  readonly supportSpanMm: number
  /** How far branches lean out, from vertical. */
  readonly leanDeg: number
  readonly footingLines: number
  /** Lines around the part itself on the bed. */
  readonly brimLines: number
  /** At a swap to the part's filament. */
  readonly purgeMm3: number
  /** At a swap to any other. */
  readonly purgeAwayMm3: number
  readonly purgeWhere: PurgePlan['where']
  /** What is laid anyway and takes leftovers first. */
  readonly purgeInto: PurgePlan['into']
  /** Middle of the prime tower as the part lies; null where there is room. */
  readonly towerAtMm: readonly [number, number] | null
  /** Cooling while the part is printed. */
  readonly fanPercent: number
  /** And while stands and interface are. */
  readonly supportFanPercent: number
  /** Heights from the bed up that are not cooled. */
  readonly fanOffLayers: number
  readonly wallsFrom: 'outside' | 'inside'
  /** Speed and cooling of lines over nothing. */
  readonly bridgeMmS: number
  readonly bridgeFanPercent: number
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
  supportSpanMm: [1, 200, 1],
  leanDeg: [0, 84, 1],
  upperGapMm: [0, 2, 0.01],
  lowerGapMm: [0, 5, 0.05],
  sideGapMm: [0, 10, 0.05],
  marginMm: [0, 10, 0.1],
  interfaceLayers: [0, 20, 1],
  lowerInterfaceLayers: [0, 20, 1],
  interfaceSpacingMm: [0, 10, 0.05],
  standWalls: [0, 2, 1],
  standDensity: [0.02, 1, 0.01],
  denseTopMm: [0, 50, 0.2],
  denseTopDensity: [0.02, 1, 0.01],
  footingLines: [0, 30, 1],
  brimLines: [0, 60, 1],
  purgeMm3: [0, 3000, 10],
  purgeAwayMm3: [0, 3000, 10],
  fanPercent: [0, 100, 5],
  supportFanPercent: [0, 100, 5],
  fanOffLayers: [1, 50, 1],
  bridgeMmS: [1, 500, 5],
  bridgeFanPercent: [0, 100, 5],
} as const satisfies Partial<Record<keyof Decisions, readonly [number, number, number]>>

export type NumberDecision = keyof typeof DECISION_RANGES

/** Branches stay this far below what would just print. */
const LEAN_BELOW_LIMIT_DEG = 5
const FREE_ANGLE_DEG = 48

/** How far branches may lean out that are printed in what has this free angle, degrees from vertical. */
export const leanBelow = (freeAngleDeg: number): number => Math.max(0, freeAngleDeg - LEAN_BELOW_LIMIT_DEG)

/** What a plain plan decides, in a filament of this identity. */
export const defaultDecisions = (filament: string): Decisions => ({
  layerHeightMm: 0.2,
  firstLayerHeightMm: 0.2,
  lineWidthMm: 0.45,
  walls: 2,
  fillDensity: 0.15,
  skinLayers: 4,
  partFilament: filament,
  standFilament: filament,
  interfaceFilament: filament,
  supports: true,
  freeAngleDeg: FREE_ANGLE_DEG,
  sideAnglesDeg: null,
  freeSpanMm: 10,
  supportSpanMm: 5,
  leanDeg: FREE_ANGLE_DEG - LEAN_BELOW_LIMIT_DEG,
  placement: 'bed',
  upperGapMm: 0.2,
  lowerGapMm: 0.2,
  sideGapMm: 0.6,
  marginMm: 0.4,
  interfaceLayers: 3,
  lowerInterfaceLayers: 0,
  interfaceSpacingMm: 0,
  interfaceLines: 'straight',
  interfaceDirection: 'across',
  stackMode: 'own',
  standKind: 'straight',
  branches: 'slim',
  standLines: 'joined',
  standWalls: 1,
  standDensity: 0.12,
  denseTopMm: 0,
  denseTopDensity: 0.3,
  thickStands: false,
  footingLines: 2,
  brimLines: 0,
  purgeMm3: 15,
  purgeAwayMm3: 15,
  purgeWhere: 'printer',
  purgeInto: 'nothing',
  towerAtMm: null,
  fanPercent: 100,
  supportFanPercent: 100,
  fanOffLayers: 1,
  wallsFrom: 'outside',
  bridgeMmS: 25,
  bridgeFanPercent: 100,
})
