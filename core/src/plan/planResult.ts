import type { Estimate } from '../estimate'
import type { Mesh, MeshFacts } from '../mesh'
import type { Access, Bridge, PatchKind } from '../overhang'
import type { ToolPaths } from '../path'
import type { Print, Sweep, Tower } from '../print'
import type { Region } from '../polygon'
import type { Layer } from '../slice'
import type { Rest, SupportPass, UnheldReason } from '../stand'
import type { HoldingGroup } from './assign'
import type { PlanWarning } from './warnings'

/** A patch of underside with what holds it. */
export type Contact = {
  readonly zMm: number
  readonly topMm: number
  /** The patch of underside that it is of. */
  readonly patch: number
  readonly kind: PatchKind
  readonly access: Access
  /** Which sentence rules it: 0 the letter itself, then its exceptions. */
  readonly holding: number
  /** Area that needs holding, seen from below. */
  readonly wantedMm2: number
  /** Area with plastic below it at its gap. */
  readonly areaMm2: number
  /** Why the rest is not held. */
  readonly unheldMm2: Readonly<Partial<Record<UnheldReason, number>>>
  readonly gapMm: number
  /** The gap that is left in truth; null where nothing holds it. */
  readonly achievedGapMm: number | null
  readonly why: string | null
  /** Layer whose underside this is at its lowest. */
  readonly layerIndex: number
  readonly atMm: readonly [number, number]
  /** The layers of the stack from below: the stand's last, then the interface. */
  readonly stack: readonly {
    readonly role: 'stand' | 'interface'
    readonly bottomMm: number
    readonly topMm: number
  }[]
}

export type IslandReport = {
  readonly zMm: number
  readonly areaMm2: number
  readonly held: boolean
  readonly layerIndex: number
  readonly atMm: readonly [number, number]
  /** Keep-off zone that leaves it in mid-air. */
  readonly keptOffBy: string | null
}

/** One height of the print: what is laid there, in which order of filaments, how long it takes. */
export type Ribbon = {
  readonly zMm: Float64Array
  readonly partMm3: Float64Array
  readonly standMm3: Float64Array
  readonly interfaceMm3: Float64Array
  /** Purged at swaps, tower included. */
  readonly purgeMm3: Float64Array
  readonly swaps: Uint8Array
  readonly timeS: Float64Array
}

/** What swaps purge and where it goes. */
export type Purges = {
  readonly tower: Tower | null
  readonly towerTrouble: Print['towerTrouble'] | null
  /** Purged into the tower; its walls and what carries it come on top. */
  readonly towerMm3: number
  readonly chuteMm3: number
  readonly laidAnywayMm3: number
  /** Swaps after which more of the old filament is in the part than it can bear, by the evidence. */
  readonly leftovers: readonly { readonly zMm: number; readonly of: string; readonly share: number }[]
}

/**
 * What becomes of a gap when the bodies are cut again by a program that only knows layers of one thickness.
 */
export type Recut = {
  readonly layerMm: number
  readonly gapMm: number
  /** The narrower one where it may come out either way. */
  readonly becomesMm: number
  readonly orMm: number | null
  /** Interface layers of the plan, and how many are left. */
  readonly plannedLayers: number
  readonly interfaceLayers: number
}

/** The numbers of a plan. */
export type PlanSummary = {
  readonly part: MeshFacts
  readonly layers: number
  readonly heightMm: number
  readonly contacts: readonly Contact[]
  readonly islands: readonly IslandReport[]
  readonly bridges: readonly Bridge[]
  readonly swaps: number
  /** Heights at which a swap happens. */
  readonly swapLayers: number
  readonly estimate: Estimate
  readonly timeS: number
  readonly swapTimeS: number
  readonly hangingMm2: number
  readonly pTender: number | null
  readonly ribbon: Ribbon
  /** How wide the stands of each sentence of the letter are; null where it has none. */
  readonly standWidthsMm: readonly (number | null)[]
  /** Heights at which layers of supports end. */
  readonly supportHeightsMm: Float64Array
  readonly rests: readonly Rest[]
  readonly recuts: readonly Recut[]
  readonly purges: Purges
  readonly warnings: readonly PlanWarning[]
}

/** The shapes of a plan, for drawing and for export. */
export type PlanGeometry = {
  /** The part as it lies. */
  readonly posed: Mesh
  readonly layers: readonly Layer[]
  readonly hold: readonly Region[]
  readonly passes: readonly SupportPass[]
  readonly partPaths: readonly ToolPaths[]
  readonly supportPaths: readonly ToolPaths[]
  readonly towerLaid: TowerLaid | null
}

/** What is laid of a prime tower, height by height, where a plan has one. */
export type TowerLaid = {
  readonly tower: Tower
  readonly sweeps: readonly Pick<Sweep, 'bottomMm' | 'topMm' | 'paths'>[]
}

export type PlanResult = {
  readonly id: string
  /** What it was made from: the same key means the same result. */
  readonly key: string
  readonly summary: PlanSummary
  readonly geometry: PlanGeometry
  /** Which undersides belong to which sentence of the letter. */
  readonly groups: readonly HoldingGroup[]
}
