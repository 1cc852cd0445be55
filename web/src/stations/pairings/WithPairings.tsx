import type { ReactNode } from 'react'
import { length } from '../../theme/measures'
import { Skeleton } from '../../ui/Skeleton'
import { PairingsContext, useAllPairings } from './usePairings'

/** Gives a view the pairings of the bench, once their fits are there. */
export function WithPairings({
  meanwhile = <Skeleton aria-busy="true" style={{ height: length.l }} />,
  children,
}: {
  meanwhile?: ReactNode
  children: ReactNode
}) {
  const pairings = useAllPairings()
  return pairings ? <PairingsContext value={pairings}>{children}</PairingsContext> : meanwhile
}
