import {
  ClingEntry,
  familyBook,
  FamilyEntry,
  FamilyTable,
  type ClingInput,
  type FamilyInput,
} from '@tender/contract'
import { NO_CHANGES, type Family, type FamilyBook } from '@tender/core/bench'
import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo } from 'react'
import { ask, tellServer } from './client'

const KEY = ['families'] as const

export const familiesQuery = queryOptions({
  queryKey: KEY,
  queryFn: ({ signal }) => ask('/families', FamilyTable, { signal }),
})

export const useFamilies = () => useQuery(familiesQuery)

/** What the maker knows better than we do; nothing until it has been read. */
export function useBook(): FamilyBook {
  const { data } = useFamilies()
  return useMemo(() => (data ? familyBook(data) : NO_CHANGES), [data])
}

/** Changes the numbers of a family, or takes them back to ours. */
export function useFamilyChanges() {
  const client = useQueryClient()
  const refresh = () => client.invalidateQueries({ queryKey: KEY })
  return {
    family: useMutation({
      mutationFn: ({ name, revision, input }: { name: Family; revision: number; input: FamilyInput }) =>
        ask(`/families/${name}?revision=${revision}`, FamilyEntry, { method: 'PUT', body: input }),
      onSuccess: refresh,
    }),
    cling: useMutation({
      mutationFn: ({
        a,
        b,
        revision,
        input,
      }: {
        a: Family
        b: Family
        revision: number
        input: ClingInput
      }) => ask(`/families/cling/${a}/${b}?revision=${revision}`, ClingEntry, { method: 'PUT', body: input }),
      onSuccess: refresh,
    }),
    reset: useMutation({
      mutationFn: (name: Family) => tellServer(`/families/${name}`, 'DELETE'),
      onSuccess: refresh,
    }),
    resetCling: useMutation({
      mutationFn: ({ a, b }: { a: Family; b: Family }) => tellServer(`/families/cling/${a}/${b}`, 'DELETE'),
      onSuccess: refresh,
    }),
  }
}
