import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import type { z } from 'zod'
import { ask, tellServer } from './client'

type Job = { readonly id: string; readonly state: 'working' | 'done' | 'stopped' | 'failed' }

/**
 * The newest long work of a kind on a part: followed while it goes on, started and stopped.
 * @param kind where its jobs stand on the server
 */
export function useJob<T extends Job>(kind: string, partId: string, schema: z.ZodType<T>) {
  const client = useQueryClient()
  const key = [kind, partId]
  const query = useQuery({
    queryKey: key,
    queryFn: ({ signal }) =>
      ask(`/parts/${partId}/${kind}/newest`, schema.nullable() as z.ZodType<T | null>, { signal }),
  })
  const job = query.data ?? null
  const following = job?.state === 'working' ? job.id : null
  useEffect(() => {
    if (!following) return
    const events = new EventSource(`/api/${kind}/${following}/events`)
    events.onmessage = ({ data }) => {
      const told = schema.safeParse(JSON.parse(data as string))
      if (told.success) client.setQueryData([kind, partId], told.data)
      if (told.success && told.data.state !== 'working') events.close()
    }
    return () => events.close()
  }, [following, client, kind, partId, schema])
  const start = useMutation({
    mutationFn: (input: unknown) => ask(`/parts/${partId}/${kind}`, schema, { method: 'POST', body: input }),
    onSuccess: (made) => client.setQueryData(key, made),
  })
  const stop = useMutation({
    mutationFn: (id: string) => tellServer(`/${kind}/${id}`, 'DELETE'),
    onSuccess: () => client.invalidateQueries({ queryKey: key }),
  })
  return {
    job,
    start: (input: unknown) => start.mutate(input),
    stop: () => job && stop.mutate(job.id),
    starting: start.isPending,
    error: start.error ?? stop.error ?? query.error,
  }
}
