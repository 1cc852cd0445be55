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

/** What was seen of an interface between a part and a stand; undefined when nobody looked. */
export const followedOf = (
  learnt: Learnt | undefined,
  part: string,
  touching: string,
  bulk: string,
): Learnt['followed'][number] | undefined =>
  learnt?.followed.find((row) => row.part === part && row.touching === touching && row.bulk === bulk)
