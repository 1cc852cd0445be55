import type { Stored } from '@tender/contract'
import { useMutation, useQuery, useQueryClient, type UseQueryResult } from '@tanstack/react-query'
import { useToasts } from '../ui/Toasts'
import { ask, tellServer } from './client'
import { shelfKeys, shelves, type InputOf, type ItemOf, type ShelfName } from './shelves'

type Page<T> = { items: T[]; total: number }

const PAGE = 500

/** Everything on a shelf that is called so, however many pages that takes. */
export async function allOf<N extends ShelfName>(
  name: N,
  search = '',
  signal?: AbortSignal,
): Promise<Page<ItemOf<N>>> {
  const { path, page } = shelves[name]
  const from = (offset: number) =>
    ask<Page<ItemOf<N>>>(
      `/${path}?limit=${PAGE}${offset > 0 ? `&offset=${offset}` : ''}&search=${encodeURIComponent(search)}`,
      page as never,
      { signal },
    )
  const { items, total } = await from(0)
  // What came in meanwhile may be told twice; what was removed leaves a shorter page.
  const found = new Map<string, ItemOf<N>>()
  for (const item of items) found.set((item as Stored).id, item)
  for (let offset = items.length; offset < total;) {
    const next = (await from(offset)).items
    if (next.length === 0) break
    for (const item of next) found.set((item as Stored).id, item)
    offset += next.length
  }
  return { items: [...found.values()], total: found.size }
}

export function useList<N extends ShelfName>(name: N, search = ''): UseQueryResult<Page<ItemOf<N>>> {
  return useQuery({
    queryKey: shelfKeys.list(name, search),
    queryFn: ({ signal }) => allOf(name, search, signal),
    placeholderData: (before) => before,
  })
}

export function useOne<N extends ShelfName>(name: N, id: string): UseQueryResult<ItemOf<N>> {
  const { path, item } = shelves[name]
  return useQuery({
    queryKey: shelfKeys.one(name, id),
    queryFn: ({ signal }) => ask<ItemOf<N>>(`/${path}/${id}`, item as never, { signal }),
  })
}

export type Save<N extends ShelfName> = { id: string; revision: number | null; input: InputOf<N> }

/** Saves a new or changed thing. Sent twice it is saved once; over somebody else's change it is refused. */
export function useSave<N extends ShelfName>(name: N) {
  const client = useQueryClient()
  const { path, item } = shelves[name]
  return useMutation({
    mutationFn: ({ id, revision, input }: Save<N>) =>
      ask<ItemOf<N>>(`/${path}/${id}${revision === null ? '' : `?revision=${revision}`}`, item as never, {
        method: 'PUT',
        body: input,
      }),
    onSuccess: (saved, { id }) => {
      client.setQueryData(shelfKeys.one(name, id), saved)
      return client.invalidateQueries({ queryKey: [name, 'list'] })
    },
  })
}

/** Removes a thing at once and offers to bring it back. */
export function useRemove(name: ShelfName) {
  const client = useQueryClient()
  const toasts = useToasts()
  const { path, called } = shelves[name]
  const refresh = () => client.invalidateQueries({ queryKey: shelfKeys.all(name) })
  const restore = useMutation({
    mutationFn: (id: string) => tellServer(`/${path}/${id}/restore`, 'POST'),
    onSuccess: refresh,
    onError: (error) => toasts.show({ text: error.message }),
  })
  return useMutation({
    mutationFn: ({ id }: { id: string; name: string }) => tellServer(`/${path}/${id}`, 'DELETE'),
    onSuccess: (_, { id, name: label }) => {
      toasts.show({
        text: `Removed the ${called} “${label}”.`,
        action: { label: 'Bring back', run: () => restore.mutate(id) },
      })
      return client.invalidateQueries({ queryKey: [name, 'list'] })
    },
    onError: (error) => toasts.show({ text: error.message }),
  })
}
