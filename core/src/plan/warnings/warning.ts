import type { Holding, PlanChange, PlanDocument } from '../../decide'
import type { Estimate } from '../../estimate'
import type { MeshFacts } from '../../mesh'
import type { PolygonEngine } from '../../polygon'
import type { Slices } from '../../slice'
import type { Contact, IslandReport, PlanGeometry, Purges } from '../planResult'
import type { HoldingGroup } from '../assign'
import type { Held, Rest } from '../../stand'

export const WARNING_CODES = [
  'MESH_OPEN',
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

export type PlanRemedy = { readonly words: string; readonly change: PlanChange }

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
  readonly geometry: Pick<PlanGeometry, 'layers' | 'passes' | 'towerLaid'>
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

/** A remedy that changes values of the letter. */
export const decide = (words: string, decisions: PlanChange['decisions']): PlanRemedy => ({
  words,
  change: { decisions },
})

/**
 * A remedy that changes how something is held, in the sentence that rules it.
 * @param sentence the exception that does; null for the letter
 * @param more changes of the letter as well
 */
export function holdOtherwise(
  { exceptions }: PlanDocument,
  sentence: number | null,
  words: string,
  values: Partial<Holding>,
  more?: PlanChange['decisions'],
): PlanRemedy {
  if (sentence === null) return decide(words, { ...more, ...values })
  const changed = exceptions.map((one, i) => (i === sentence ? { ...one, ...values } : one))
  return { words, change: { ...(more && { decisions: more }), exceptions: changed } }
}

/** A length as sentences show it. */
export const mm = (value: number): string => `${String(Number(value.toFixed(2))).replace('-', '−')} mm`
/** A gap, always with both its digits. */
export const gapMm = (value: number): string => `${value.toFixed(2)} mm`
