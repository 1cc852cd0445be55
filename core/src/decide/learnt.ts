import type { Interval } from '../trial'

/** What take-offs taught beyond gaps: of today's bench, not of a decision. */
export type Learnt = {
  /** How often an interface came along with its stand, or stayed on the part. Filaments by their identity. */
  readonly followed: readonly {
    readonly part: string
    readonly touching: string
    readonly bulk: string
    readonly came: number
    readonly stayed: number
  }[]
  /** Grams weighed over grams planned. */
  readonly grams: readonly {
    readonly filament: string
    readonly factor: Interval
    readonly weighings: number
  }[]
  /** Minutes of taking off over minutes guessed. */
  readonly minutes: { readonly factor: Interval; readonly takeOffs: number } | null
}

export const NOTHING_LEARNT: Learnt = { followed: [], grams: [], minutes: null }
