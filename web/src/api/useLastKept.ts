import { LastKept } from '@tender/contract'
import { queryOptions, useQuery } from '@tanstack/react-query'
import { lastKeptAddress } from './ahead'
import { ask } from './client'
import { inTime } from './inTime'

/** Whoever comes back later asks for what is the last by then. */
const FRESH_MS = 5_000

export const lastKeptQuery = (plan: string) =>
  queryOptions({
    queryKey: ['last kept', plan],
    staleTime: Infinity,
    gcTime: FRESH_MS,
    queryFn: async (): Promise<LastKept> => (await inTime(ask(lastKeptAddress(plan), LastKept))) ?? [],
  })

/**
 * What was last kept about a plan and about take-offs, asked for before it is known what to ask: most times
 * it is what is wanted. Undefined until it is there.
 */
export const useLastKept = (plan: string): LastKept | undefined => useQuery(lastKeptQuery(plan)).data
