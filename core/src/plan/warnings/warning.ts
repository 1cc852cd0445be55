import type { PlanDocument } from '../../decide'
import type { Estimate } from '../../estimate'
import type { MeshFacts } from '../../mesh'
import type { PolygonEngine } from '../../polygon'
import type { Slices } from '../../slice'
import type { Contact, IslandReport, PlanGeometry, Purges } from '../planResult'
import type { HoldingGroup } from '../assign'
import type { Held, Rest } from '../../stand'
import type { PlanRemedy } from '../remedies'

export const WARNING_CODES = [
  'MESH_OPEN',
  'PART_TOO_THIN',
  'SUPPORTS_OFF',
  'ISLAND_NOT_HELD',
  'OVERHANG_NOT_HELD',
  'POST_IDLE',
  'EXCEPTION_IDLE',
  'GAP_MISSED',
  'LOWER_GAP_MISSED',
  'RECUT',
  'WELDED_PAIR',
  'INTERFACE_MAY_STAY',
  'STANDS_DENSER',
  'TOO_MANY_FILAMENTS',
  'OUTSIDE_BED',
  'TOO_TALL',
  'LAYER_OUT_OF_RANGE',
  'LINE_OUT_OF_RANGE',
  'SPOOL_SHORT',
  'LOCKED_IN',
  'UNSTEADY',
  'WEAK_NECK',
  'TOWER_NO_ROOM',
  'TOWER_IN_THE_WAY',
  'LEFTOVERS',
] as const
export type PlanWarningCode = (typeof WARNING_CODES)[number]

export type PlanWarning = {
  readonly code: PlanWarningCode
  readonly severity: 'error' | 'warning' | 'note'
  readonly message: string
  /** Where it is about a place. */
  readonly atMm?: readonly [number, number, number]
  /** Single changes that put it right, or make it less likely; the cheapest first. */
  readonly remedies?: readonly PlanRemedy[]
}

/** What warnings are found in. */
export type Warned = {
  readonly engine: PolygonEngine
  readonly document: PlanDocument
  readonly facts: MeshFacts
  readonly slices: Slices
  readonly contacts: readonly Contact[]
  readonly groups: readonly HoldingGroup[]
  readonly islands: readonly IslandReport[]
  readonly rests: readonly Rest[]
  /** What posts hold, by layer. */
  readonly postsHeld: ReadonlyMap<number, Held>
  readonly geometry: Pick<PlanGeometry, 'layers' | 'passes' | 'partPaths' | 'towerLaid'>
  readonly totals: Estimate
  readonly purges: Purges
}

export const error = (
  code: PlanWarningCode,
  message: string,
  more: Partial<PlanWarning> = {},
): PlanWarning => ({
  code,
  severity: 'error',
  message,
  ...more,
})
export const warning = (
  code: PlanWarningCode,
  message: string,
  more: Partial<PlanWarning> = {},
): PlanWarning => ({
  code,
  severity: 'warning',
  message,
  ...more,
})

export const note = (
  code: PlanWarningCode,
  message: string,
  more: Partial<PlanWarning> = {},
): PlanWarning => ({
  code,
  severity: 'note',
  message,
  ...more,
})
