import type { UseInfiniteQueryResult, UseQueryResult } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { Page, WaitingPage } from '../ui/Page'
import { Failure, Loaded } from '../ui/States'

/** A view that is nothing without what is read for it: waited for, told when it does not come, or shown. */
export function LoadedPage<T>({
  query,
  called,
  children,
}: {
  query: UseQueryResult<T> | UseInfiniteQueryResult<T>
  /** What the view is of. */
  called: string
  children: (data: T) => ReactNode
}) {
  if (query.isLoadingError)
    return (
      <Page title={`This ${called} did not arrive`}>
        <Failure error={query.error} onRetry={() => void query.refetch()} />
      </Page>
    )
  return (
    <Loaded query={query} skeleton={<WaitingPage />}>
      {children}
    </Loaded>
  )
}
