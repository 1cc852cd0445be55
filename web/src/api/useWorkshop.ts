import { Workshop, type WorkshopInput } from '@tender/contract'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { setCurrency } from '../format/numbers'
import { ask } from './client'

const KEY = ['workshop'] as const

/**
 * What holds for the workshop as a whole. What it says of money holds from then on, wherever money is told.
 */
export function useWorkshop(): Workshop | undefined {
  return useQuery({
    queryKey: KEY,
    queryFn: async ({ signal }) => {
      const found = await ask('/workshop', Workshop, { signal })
      setCurrency(found.currency)
      return found
    },
  }).data
}

export function useWorkshopChange() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: ({ revision, input }: { revision: number; input: WorkshopInput }) =>
      ask(`/workshop${revision === 0 ? '' : `?revision=${revision}`}`, Workshop, {
        method: 'PUT',
        body: input,
      }),
    onSuccess: (saved) => {
      setCurrency(saved.currency)
      client.setQueryData(KEY, saved)
    },
  })
}
