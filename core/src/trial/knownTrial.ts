import type { Readings } from './coupon'

/** Something of the bench: what it is known by, and what it is called today. */
export type Named = { readonly id: string; readonly name: string }

/** Circumstances of a printed trial. */
export type TrialConditions = {
  readonly printer: Named
  readonly partFilament: Named
  /** What touched the part, or was swapped to; for a fan the same as the part. */
  readonly supportFilament: Named
  /** Lots of the two spools, as written on them; empty where nobody noted them. */
  readonly partLot: string
  readonly supportLot: string
  readonly nozzleMm: number
  readonly layerHeightMm: number
  readonly lineWidthMm: number
  readonly speedMmS: number
  readonly fanPercent: number
  readonly damp: boolean
  /** Read by stand-ins, not by a maker. */
  readonly simulated?: boolean
}

/** A trial as evidence: what was read, how it was printed, and when (a date, year first). */
export type KnownTrial = {
  readonly id: string
  readonly name: string
  readonly printedOn: string
  readonly conditions: TrialConditions
} & Readings

export type KnownTrialOf<K extends Readings['kind']> = KnownTrial & { readonly kind: K }

const TAKE_OFF = 'take-off.'

/**
 * The identity under which what a take-off says of one of its filaments, by its number, is evidence beside
 * trials.
 */
export const takeOffEvidenceId = (takeOffId: string, filament: number): string =>
  `${TAKE_OFF}${takeOffId}.${filament}`

/** The take-off behind a piece of evidence; null when it is a trial. */
export const takeOffBehind = (evidenceId: string): string | null =>
  evidenceId.startsWith(TAKE_OFF) ? evidenceId.slice(TAKE_OFF.length).split('.')[0] : null

/** Trials of a kind that hold any reading. */
export const trialsOf = <K extends Readings['kind']>(
  trials: readonly KnownTrial[],
  kind: K,
): KnownTrialOf<K>[] =>
  trials.filter((trial): trial is KnownTrialOf<K> => trial.kind === kind && trial.readings.length > 0)

const close = (a: number, b: number) => Math.abs(a - b) < 1e-6

/**
 * Whether two trials are prints of the same coupon under the same circumstances, so that their readings are
 * one.
 */
export function samePrint(a: KnownTrial, b: KnownTrial): boolean {
  const [p, q] = [a.conditions, b.conditions]
  return (
    a.kind === b.kind &&
    p.printer.id === q.printer.id &&
    p.partFilament.id === q.partFilament.id &&
    p.supportFilament.id === q.supportFilament.id &&
    p.damp === q.damp &&
    p.simulated === q.simulated &&
    close(p.nozzleMm, q.nozzleMm) &&
    close(p.layerHeightMm, q.layerHeightMm) &&
    close(p.lineWidthMm, q.lineWidthMm) &&
    close(p.speedMmS, q.speedMmS) &&
    close(p.fanPercent, q.fanPercent)
  )
}
