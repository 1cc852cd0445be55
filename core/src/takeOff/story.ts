import type { Family, FamilyBook } from '../bench'
import { knownPairing } from '../pairing'
import { trialsOf, type KnownTrial } from '../trial'

/** A step in what is known of a pairing. */
export type StoryStep = {
  /** The trial or take-off that came; null for what was guessed before any. */
  readonly id: string | null
  readonly name: string
  readonly on: string | null
  readonly readings: number
  readonly suggestedGapMm: number
  readonly windowMm: readonly [number, number]
  readonly pTender: number
  /**
   * How much the answer of today leans on it: the share of what the window moves or widens without it; null
   * for the guess.
   */
  readonly weight: number | null
}

type Known = { readonly id: string; readonly family: Family }

/**
 * How a pairing came to be known: the guess, then trials and take-offs in the order of their days, each with
 * the window as it was after it.
 */
export function storyOf(
  part: Known,
  touching: Known,
  trials: readonly KnownTrial[],
  book: FamilyBook,
): StoryStep[] {
  const own = trialsOf(trials, 'gap')
    .filter(
      ({ conditions }) =>
        conditions.partFilament.id === part.id && conditions.supportFilament.id === touching.id,
    )
    .toSorted((a, b) => a.printedOn.localeCompare(b.printedOn))
  const fitOf = (some: readonly KnownTrial[]) => knownPairing(part, touching, some, { book }).fit
  const today = fitOf(own)
  const moved = own.map((one) => {
    const { windowMm } = fitOf(own.filter((other) => other !== one))
    return Math.abs(windowMm[0] - today.windowMm[0]) + Math.abs(windowMm[1] - today.windowMm[1])
  })
  const all = moved.reduce((a, b) => a + b, 0)
  return [null, ...own].map((trial, i) => {
    const { suggestedGapMm, windowMm, pTender } = i === own.length ? today : fitOf(own.slice(0, i))
    return {
      id: trial?.id ?? null,
      name: trial?.name ?? 'A guess from the families',
      on: trial?.printedOn ?? null,
      readings: trial?.readings.length ?? 0,
      suggestedGapMm,
      windowMm,
      pTender,
      weight: trial === null ? null : all > 0 ? moved[i - 1] / all : 1 / own.length,
    }
  })
}
