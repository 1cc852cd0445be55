import type { ReactNode } from 'react'
import { Skeleton } from '../../ui/States'
import { PairingsContext, useAllPairings } from './usePairings'

/** Gives a view the pairings of the bench, once their fits are there. */
export function WithPairings({ children }: { children: ReactNode }) {
  const pairings = useAllPairings()
  return pairings ? <PairingsContext value={pairings}>{children}</PairingsContext> : <Skeleton />
}
