import { LastKept } from '@tender/contract'
import { useQuery } from '@tanstack/react-query'
import { lastKeptAddress } from '../api/ahead'
import { ask } from '../api/client'
import { inTime } from './keptAnswers'

/**
 * What was last kept about a plan and about take-offs, asked for before it is known what to ask: most times
 * it is what is wanted. Undefined until it is there.
 */
export function useLastKept(plan: string): LastKept | undefined {
  return useQuery({
    queryKey: ['last kept', plan],
    staleTime: Infinity,
    // Whoever comes back asks for what is the last by then.
    gcTime: 0,
    queryFn: () => lastKept(plan),
  }).data
}

const lastKept = async (plan: string): Promise<LastKept> =>
  (await inTime(ask(lastKeptAddress(plan), LastKept))) ?? []
