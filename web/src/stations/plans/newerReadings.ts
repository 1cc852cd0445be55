import { knownTrials, type Plan } from '@tender/contract'
import { newerEvidence, SPOKEN_FOR, type Evidence, type PlanDocument, type SpokenFor } from '@tender/core/plan'
import { useMemo } from 'react'
import { useBook } from '../../api/useFamilies'
import { useList } from '../../api/useShelf'
import { NUMBERS } from './catalogue'

/** What would change in a plan if it took the readings of today, in words. */
export function changesInWords(document: PlanDocument, newer: Partial<Record<SpokenFor, Evidence>>): string {
  return SPOKEN_FOR.flatMap((name) => {
    const [then, now] = [document.evidence[name], newer[name]]
    if (!then || !now) return []
    const { label, show } = NUMBERS[name]
    if (then.value === now.value) return [`${label} stays at ${show(now.value)}, now on ${now.readings} readings`]
    const own = document.decisions[name] !== then.value ? ' (yours stays)' : ''
    return [`${label} ${show(then.value)} becomes ${show(now.value)}${own}`]
  }).join('; ')
}

/** For each plan that stands on older readings, what the newer ones would change. */
export function useOutdated(plans: readonly Plan[]): ReadonlyMap<string, string> {
  const trials = useList('trials').data?.items
  const book = useBook()
  return useMemo(() => {
    if (!trials) return new Map()
    const known = knownTrials(trials)
    return new Map(
      plans.flatMap(({ id, document }) => {
        const words = changesInWords(document, newerEvidence(document, known, book))
        return words === '' ? [] : [[id, words] as const]
      }),
    )
  }, [plans, trials, book])
}
