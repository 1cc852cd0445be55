import { knownTrials, type Plan } from '@tender/contract'
import { newerEvidence } from '@tender/core/decide'
import { useMemo } from 'react'
import { useBook } from '../../api/useFamilies'
import { useList } from '../../api/useShelf'
import { changesInWords } from './changesInWords'

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
