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
  /** Pull over the gap, per area that lines cover, for the upper gap only, when pulls were measured. */
  readonly pull?: { readonly gapsMm: readonly number[]; readonly nPerMm2: readonly number[] }
  /** What is left of one filament in the next, for purges only: r(V) = exp(-(V - dead) / decay). */
  readonly leftovers?: readonly {
    readonly from: string
    readonly to: string
    readonly deadMm3: number
    readonly decayMm3: number
  }[]
}

/** Values that trials can speak for. */
export const SPOKEN_FOR = [
  'freeAngleDeg',
  'freeSpanMm',
  'supportSpanMm',
  'leanDeg',
  'upperGapMm',
  'purgeMm3',
  'purgeAwayMm3',
] as const
export type SpokenFor = (typeof SPOKEN_FOR)[number]
export type PlanEvidence = { readonly [D in SpokenFor]?: Evidence }
