import { planFilament, type StoredFilament } from '@tender/contract'
import { knownPairing, type KnownPairing } from '@tender/core/pairing'
import { DEFAULT_DECISIONS, followedOf } from '@tender/core/decide'
import { bondSentence, releaseChain, type MeasuredRelease, type ReleaseChain } from '@tender/core/release'
import type { KnownTrial } from '@tender/core/trial'
import { createContext, use, useMemo } from 'react'
import { useKnownTrials } from '../../workers/useKnownTrials'

/**
 * A contact as plans usually make it, for bonds that are compared before there is any part: a square of 15 mm
 * on a stand as large.
 */
const USUAL = { contactMm2: 225, footprintMm2: 225 } as const

/**
 * What is known of every two filaments of the bench, worked out once for each; null until all fits are there.
 */
export function useAllPairings() {
  const evidence = useKnownTrials()
  return useMemo(() => {
    if (!evidence) return null
    const { trials: known, families, book, learnt } = evidence
    // A bench of many filaments has more pairings than anybody reads trials for: each looks at its own alone.
    const own = new Map<string, KnownTrial[]>()
    for (const trial of known) {
      const key = trial.conditions.partFilament.id + trial.conditions.supportFilament.id
      const same = own.get(key)
      if (same) same.push(trial)
      else own.set(key, [trial])
    }
    const made = new Map<string, KnownPairing>()
    const knownOf = (part: StoredFilament, touching: StoredFilament): KnownPairing => {
      const key = part.id + touching.id
      const before = made.get(key)
      if (before) return before
      const pairing = knownPairing(part, touching, own.get(key) ?? [], { book })
      made.set(key, pairing)
      return pairing
    }
    /** The bonds when the interface alone, or the whole stand, is printed in what touches. */
    const chainOf = (part: StoredFilament, touching: StoredFilament, bulk: StoredFilament): ReleaseChain => {
      const [p, t, b] = [part, touching, bulk].map((one) => planFilament(one))
      return releaseChain({
        ...DEFAULT_DECISIONS,
        ...USUAL,
        part: p,
        touching: t,
        bulk: b,
        upperGapMm: knownOf(part, touching).fit.suggestedGapMm,
        book,
      })
    }
    /**
     * What is measured and what is guessed of the bonds, in words: ladders before clings, then what was seen
     * of contacts taken off.
     */
    const bondInWords = (part: StoredFilament, touching: StoredFilament, bulk: StoredFilament): string => {
      const chain = chainOf(part, touching, bulk)
      return bondSentence(
        chain,
        measuredOf(knownOf(part, touching)),
        followedOf(learnt, part.id, touching.id, bulk.id),
      )
    }
    return { knownOf, chainOf, bondInWords, trials: known, families, book }
  }, [evidence])
}

export type Pairings = NonNullable<ReturnType<typeof useAllPairings>>
export const PairingsContext = createContext<Pairings | null>(null)

/** The pairings of the bench, in a view that stands inside them. */
export function usePairings(): Pairings {
  const pairings = use(PairingsContext)
  if (!pairings) throw new Error('A pairing stands outside its bench.')
  return pairings
}

/** What was measured of a pairing at the gap it suggests; null where nothing was. */
const measuredOf = ({ source, fit }: KnownPairing): MeasuredRelease | null =>
  source === 'measured' ? { chance: fit.pTender, readings: fit.readings, gapMm: fit.suggestedGapMm } : null
