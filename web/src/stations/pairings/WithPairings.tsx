import type { ReactNode } from 'react'
import { lostOf } from '../../api/useShelf'
import { length } from '../../theme/measures'
import { Page, WaitingPage } from '../../ui/Page'
import { Skeleton } from '../../ui/Skeleton'
import { Failure } from '../../ui/States'
import { useWhatIsRead } from '../../workers/useKnownTrials'
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
  const lost = lostOf(useWhatIsRead())
  if (pairings) return <PairingsContext value={pairings}>{children}</PairingsContext>
  if (!lost) return isPage ? <WaitingPage /> : <Skeleton aria-busy="true" style={{ height: length.l }} />
  const failure = <Failure error={lost.error} onRetry={lost.retry} />
  return isPage ? <Page title="This pairing did not arrive">{failure}</Page> : failure
}
