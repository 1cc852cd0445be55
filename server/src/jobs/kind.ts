import type { Mesh } from '@tender/core/mesh'

/** A batch with what came of it, if it was done. */
export type DoneBatch<Work, Result> = {
  readonly round: number
  readonly work: Work
  readonly results: Result | null
}

/** What a batch is done with: the part's mesh, and a name that means just this mesh. */
export type Workplace = { readonly mesh: Mesh; readonly meshKey: string }

/** One kind of long work: how it is cut into rounds of batches, and how a batch is done. */
export type JobKind<Input, Work, Result> = {
  readonly name: string
  /** Work of the first round. */
  first(input: Input): readonly Work[]
  /** What comes after a round whose batches are all done; null when nothing does. */
  next(
    batches: readonly DoneBatch<Work, Result>[],
    round: number,
    input: Input,
  ): { readonly round: number; readonly batches: readonly Work[] } | null
  /** Share of the whole that is done, 0 to 1, when `share` of a round is. */
  progress(round: number, share: number): number
  /**
   * Does a batch. @throws TenderError when the part makes it impossible: the job then fails with its sentence
   */
  run(work: Work, round: number, input: Input, place: Workplace): Promise<Result>
}

/** A kind whatever it is about. */
export type AnyKind = JobKind<unknown, unknown, unknown>
