import { clingGuess, type Cling, type Family, type FamilyBook } from '../bench'
import {
  gapFitOf,
  pullFitOf,
  trialsOf,
  type GapFit,
  type KnownTrial,
  type KnownTrialOf,
  type PullFit,
} from '../trial'

/** What is known of one filament touched by another. */
export type KnownPairing = {
  readonly cling: Cling
  /** Whether somebody has spoken for this cling, or it is the middle for want of better. */
  readonly clingKnown: boolean
  readonly source: 'measured' | 'guess'
  readonly fit: GapFit
  readonly pull: PullFit | null
  readonly ladders: readonly KnownTrialOf<'gap'>[]
}

type Known = { readonly id: string; readonly family: Family }

/**
 * Guesses depend on the cling alone, and a bench of many filaments asks for each of the few over and over.
 */
const guessOf = (cling: Cling): GapFit => gapFitOf([], cling)

/**
 * Gathers what ladders say of a part touched by a filament; without any, the families' cling speaks as a
 * starting guess.
 */
export function knownPairing(
  part: Known,
  touching: Known,
  trials: readonly KnownTrial[],
  options: { readonly book?: FamilyBook } = {},
): KnownPairing {
  const { cling, known: clingKnown } = clingGuess(part.family, touching.family, options.book)
  const ladders = trialsOf(trials, 'gap').filter(
    ({ conditions }) =>
      conditions.partFilament.id === part.id && conditions.supportFilament.id === touching.id,
  )
  if (ladders.length === 0)
    return { cling, clingKnown, source: 'guess', fit: guessOf(cling), pull: null, ladders }
  return {
    cling,
    clingKnown,
    source: 'measured',
    fit: gapFitOf(ladders, cling),
    pull: pullFitOf(ladders),
    ladders,
  }
}
