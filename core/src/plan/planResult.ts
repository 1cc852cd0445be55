import type { Estimate, Role } from '../estimate'
import type { Mesh, MeshFacts } from '../mesh'
import type { Access, Bridge, PatchKind } from '../overhang'
import type { ToolPaths } from '../path'
import type { Region } from '../polygon'
import type { Layer } from '../slice'
import type { SupportPass } from '../stand'

export type PlanWarningCode =
  | 'MESH_OPEN'
  | 'ISLAND_NOT_HELD'
  | 'OVERHANG_NOT_HELD'
  | 'SUPPORTS_OFF'
  | 'GAP_MISSED'
  | 'WELDED_PAIR'
  | 'INTERFACE_MAY_STAY'
  | 'OUTSIDE_BED'
  | 'TOO_TALL'
  | 'SPOOL_SHORT'
  | 'TOO_MANY_FILAMENTS'
  | 'LAYER_OUT_OF_RANGE'

export type PlanWarning = { readonly code: PlanWarningCode; readonly severity: 'error' | 'warning' | 'note'; readonly message: string }

/** A patch of underside with what holds it. */
export type Contact = {
  readonly zMm: number
  readonly topMm: number
  readonly kind: PatchKind
  readonly access: Access
  /** Area that needs holding, seen from below. */
  readonly wantedMm2: number
  /** Area that is held. */
  readonly areaMm2: number
  readonly gapMm: number
  readonly achievedGapMm: number
  readonly why: string | null
  /** Layer whose underside this is at its lowest. */
  readonly layerIndex: number
  readonly atMm: readonly [number, number]
  /** The layers of the stack from below: the stand's last, then the interface. */
  readonly stack: readonly { readonly role: 'stand' | 'interface'; readonly bottomMm: number; readonly topMm: number }[]
}

export type IslandReport = {
  readonly zMm: number
  readonly areaMm2: number
  readonly held: boolean
  readonly layerIndex: number
  readonly atMm: readonly [number, number]
  /** Keep-off zone that leaves it in mid-air. */ readonly keptOffBy: string | null
}

/** One height of the print: what is laid there, in which order of filaments, how long it takes. */
export type Ribbon = {
  readonly zMm: Float64Array
  readonly partMm3: Float64Array
  readonly standMm3: Float64Array
  readonly interfaceMm3: Float64Array
  readonly swaps: Uint8Array
  readonly timeS: Float64Array
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
}

export type PlanResult = { readonly summary: PlanSummary; readonly geometry: PlanGeometry }

export type { Role }
