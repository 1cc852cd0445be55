import type { Plan } from '@tender/contract'
import { newerEvidence } from '@tender/core/decide'
import { useMemo } from 'react'
import { useKnownTrials } from '../../workers/useKnownTrials'
import { changesInWords } from './changesInWords'

/** For each plan that stands on older readings, what the newer ones would change. */
export function useOutdated(plans: readonly Plan[]): ReadonlyMap<string, string> {
  const known = useKnownTrials()
  return useMemo(() => {
    if (!known) return new Map()
    return new Map(
      plans.flatMap(({ id, document }) => {
        const words = changesInWords(document, newerEvidence(document, known.trials, known.book))
        return words === '' ? [] : [[id, words] as const]
      }),
    )
  }, [plans, known])
}
