import { CLINGS, type Family, type FamilyBook } from '../bench'
import { knownPairing } from '../pairing'
import type { Checkpoint } from '../slice'
import {
  fanFitOf,
  fitsAskedBy,
  gapFitOf,
  purgeFitOf,
  spanFitOf,
  trialsOf,
  type KnownTrial,
  type RememberedFit,
} from '../trial'

/**
 * All fits that suggestions and pairings over these trials ask for, so that they can be made in another
 * thread and only be looked up where somebody waits.
 * @param familyOf family of a filament, undefined when it is not on the bench any more
 * @param checkpoint called before each of them
 */
export async function fitsAhead(
  trials: readonly KnownTrial[],
  familyOf: (id: string) => Family | undefined,
  book: FamilyBook,
  checkpoint?: Checkpoint,
): Promise<RememberedFit[]> {
  const questions = [...questionsOn(trials, familyOf, book)]
  const fits: RememberedFit[] = []
  for (const [done, ask] of questions.entries()) {
    await checkpoint?.(done, questions.length)
    fits.push(...fitsAskedBy(ask))
  }
  return fits
}

function* questionsOn(
  trials: readonly KnownTrial[],
  familyOf: (id: string) => Family | undefined,
  book: FamilyBook,
): Generator<() => void> {
  const ids = (pick: (trial: KnownTrial) => string) => [...new Set(trials.map(pick))]
  yield () => fanFitOf([])
  yield () => spanFitOf([])
  for (const cling of CLINGS) yield () => gapFitOf([], cling)
  for (const id of ids(({ conditions }) => conditions.partFilament.id)) {
    const own = (trial: KnownTrial) => trial.conditions.partFilament.id === id
    yield () => fanFitOf(trialsOf(trials, 'fan').filter(own))
    yield () => spanFitOf(trialsOf(trials, 'span').filter(own))
    for (const other of ids(({ conditions }) => conditions.supportFilament.id)) {
      const [family, otherFamily] = [familyOf(id), familyOf(other)]
      if (family && otherFamily)
        yield () => knownPairing({ id, family }, { id: other, family: otherFamily }, trials, { book })
      const pair = [id, other]
      const ladders = trialsOf(trials, 'purge').filter(
        ({ conditions: { partFilament, supportFilament } }) =>
          pair.includes(partFilament.id) &&
          pair.includes(supportFilament.id) &&
          partFilament.id !== supportFilament.id,
      )
      if (ladders.length > 0) for (const from of pair) yield () => purgeFitOf(ladders, from)
    }
  }
}
