import { PoseSearch, type PlanInput } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { ask, tellServer } from '../../api/client'

/** The newest search of a part: followed while it works, started and stopped. */
export function usePoseSearch(partId: string) {
  const client = useQueryClient()
  const key = ['searches', partId]
  const query = useQuery({
    queryKey: key,
    queryFn: ({ signal }) => ask(`/parts/${partId}/searches/newest`, PoseSearch.nullable(), { signal }),
  })
  const search = query.data ?? null
  const following = search?.state === 'working' ? search.id : null
  useEffect(() => {
    if (!following) return
    const events = new EventSource(`/api/searches/${following}/events`)
    events.onmessage = ({ data }) => {
      const told = PoseSearch.safeParse(JSON.parse(data as string))
      if (told.success) client.setQueryData(['searches', partId], told.data)
      if (told.success && told.data.state !== 'working') events.close()
    }
    return () => events.close()
  }, [following, client, partId])
  const start = useMutation({
    mutationFn: (document: PlanDocument) =>
      ask(`/parts/${partId}/searches`, PoseSearch, {
        method: 'POST',
        body: { document: document as unknown as PlanInput['document'] },
      }),
    onSuccess: (made) => client.setQueryData(key, made),
  })
  const stop = useMutation({
    mutationFn: (id: string) => tellServer(`/searches/${id}`, 'DELETE'),
    onSuccess: () => client.invalidateQueries({ queryKey: key }),
  })
  return {
    search,
    start: (document: PlanDocument) => start.mutate(document),
    stop: () => search && stop.mutate(search.id),
    starting: start.isPending,
    error: start.error ?? stop.error ?? query.error,
  }
}
