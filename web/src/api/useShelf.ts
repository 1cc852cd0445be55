import type { Stored } from '@tender/contract'
import {
  keepPreviousData,
  queryOptions,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
  type UseInfiniteQueryResult,
  type UseQueryResult,
} from '@tanstack/react-query'
import { useToasts } from '../ui/Toasts'
import { MOST, pageAddress } from './ahead'
import { ask, tellServer } from './client'
import { shelfKeys, shelves, type InputOf, type ItemOf, type ListQuery, type ShelfName } from './shelves'

type Page<T> = { items: T[]; total: number }

/** As many as a view shows at first, and more with each press. */
const SHOWN = 60

/** A page of a shelf. */
function pageOf<N extends ShelfName>(
  name: N,
  query: ListQuery,
  limit: number,
  offset: number,
  signal?: AbortSignal,
): Promise<Page<ItemOf<N>>> {
  const { path, page } = shelves[name]
  return ask<Page<ItemOf<N>>>(pageAddress(path, query, limit, offset), page as never, { signal })
}

/** The same thing once, however often it is told: what came in meanwhile moves others to the next page. */
const once = <T>(items: readonly T[]): T[] => [
  ...new Map(items.map((item) => [(item as Stored).id, item])).values(),
]

/** Everything on a shelf that a query asks for, however many pages that takes. */
export async function allOf<N extends ShelfName>(
  name: N,
  query: ListQuery = {},
  signal?: AbortSignal,
): Promise<Page<ItemOf<N>>> {
  const first = await pageOf(name, query, MOST, 0, signal)
  const items = [...first.items]
  // What was removed meanwhile leaves a shorter page.
  while (items.length < first.total) {
    const next = await pageOf(name, query, MOST, items.length, signal)
    if (next.items.length === 0) break
    items.push(...next.items)
  }
  const found = once(items)
  return { items: found, total: found.length }
}

export const listQuery = <N extends ShelfName>(name: N, query: ListQuery = {}) =>
  queryOptions({
    queryKey: shelfKeys.list(name, query),
    queryFn: ({ signal }) => allOf(name, query, signal),
  })

/** Everything, for what is worked out from all of it. Lists that are looked at come in pages. */
export const useList = <N extends ShelfName>(
  name: N,
  query: ListQuery = {},
): UseQueryResult<Page<ItemOf<N>>> =>
  useQuery({ ...listQuery(name, query), placeholderData: keepPreviousData })

export type Lost = { readonly error: Error; readonly retry: () => void }

/** Why some of what is read did not arrive at all, and how to ask for it again; null where all did or may. */
export function lostOf(
  read: readonly Pick<UseQueryResult, 'isLoadingError' | 'error' | 'refetch'>[],
): Lost | null {
  const lost = read.filter(({ isLoadingError }) => isLoadingError)
  return lost.length === 0
    ? null
    : { error: lost[0].error!, retry: () => lost.forEach((one) => void one.refetch()) }
}

export type Pages<T> = UseInfiniteQueryResult<Page<T>>

/** A list to look at: the first rows, and the next when they are wanted. */
export function usePages<N extends ShelfName>(name: N, query: ListQuery = {}): Pages<ItemOf<N>> {
  return useInfiniteQuery({
    queryKey: shelfKeys.pages(name, query),
    queryFn: ({ signal, pageParam }) => pageOf(name, query, SHOWN, pageParam, signal),
    initialPageParam: 0,
    getNextPageParam: ({ total }, _pages, offset) => (offset + SHOWN < total ? offset + SHOWN : undefined),
    placeholderData: keepPreviousData,
    select: ({ pages }): Page<ItemOf<N>> => ({
      items: once(pages.flatMap(({ items }) => items)),
      total: pages[0].total,
    }),
  })
}

/** How many there are. */
export const useTotal = (name: ShelfName, query: ListQuery = {}): number =>
  useQuery({
    queryKey: [...shelfKeys.list(name, query), 'total'],
    queryFn: async ({ signal }) => (await pageOf(name, query, 1, 0, signal)).total,
    placeholderData: keepPreviousData,
  }).data ?? 0

export function oneQuery<N extends ShelfName>(name: N, id: string) {
  const { path, item } = shelves[name]
  return queryOptions({
    queryKey: shelfKeys.one(name, id),
    queryFn: ({ signal }) => ask<ItemOf<N>>(`/${path}/${id}`, item as never, { signal }),
  })
}

export const useOne = <N extends ShelfName>(name: N, id: string): UseQueryResult<ItemOf<N>> =>
  useQuery(oneQuery(name, id))

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

/** Brings back what was removed. */
export function useRestore(name: ShelfName) {
  const client = useQueryClient()
  const toasts = useToasts()
  return useMutation({
    mutationFn: (id: string) => tellServer(`/${shelves[name].path}/${id}/restore`, 'POST'),
    onSuccess: () => client.invalidateQueries({ queryKey: shelfKeys.all(name) }),
    onError: (error) => toasts.show({ text: error.message }),
  })
}

/** Removes a thing at once and offers to bring it back. */
export function useRemove(name: ShelfName) {
  const client = useQueryClient()
  const toasts = useToasts()
  const { path, called } = shelves[name]
  const restore = useRestore(name)
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
