import type { UseQueryResult } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { useList } from '../../api/useShelf'
import { LoadedPage } from '../../frame/LoadedPage'
import { length } from '../../theme/measures'
import { WaitingPage } from '../../ui/Page'
import { Skeleton } from '../../ui/Skeleton'
import { Loaded } from '../../ui/States'
import { PairingsContext, useAllPairings } from './usePairings'

/** Gives a view the pairings of the bench, once their fits are there. */
export function WithPairings({
  isPage = false,
  children,
}: {
  /** Whether the view is nothing without them. */
  isPage?: boolean
  children: ReactNode
}) {
  const pairings = useAllPairings()
  const trials = useList('trials')
  const takeOffs = useList('takeOffs')
  if (pairings) return <PairingsContext value={pairings}>{children}</PairingsContext>
  // Fits are waited for until it is clear that what they are made of does not come.
  const fitted = isPage ? <WaitingPage /> : <Skeleton aria-busy="true" style={{ height: length.l }} />
  const once = (query: UseQueryResult<unknown>, then: ReactNode) =>
    isPage ? (
      <LoadedPage query={query} called="pairing">
        {() => then}
      </LoadedPage>
    ) : (
      <Loaded query={query} skeleton={fitted}>
        {() => then}
      </Loaded>
    )
  return once(trials, once(takeOffs, fitted))
}
