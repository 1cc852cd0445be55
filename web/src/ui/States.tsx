import type { UseInfiniteQueryResult, UseQueryResult } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import styled from 'styled-components'
import { Button } from './Button'
import { Sentence, Sheet } from './Sheet'
import { Skeleton } from './Skeleton'

export function Failure({ error, onRetry }: { error: Error; onRetry?: () => void }) {
  return (
    <Sheet role="alert">
      <Sentence>{error.message}</Sentence>
      {onRetry && <Button onPress={onRetry}>Try again</Button>}
    </Sheet>
  )
}

/** A view without content says what to do next. */
export function Empty({ children, action }: { children: ReactNode; action?: ReactNode }) {
  return (
    <EmptySheet>
      <Sentence>{children}</Sentence>
      {action}
    </EmptySheet>
  )
}
const EmptySheet = styled(Sheet)`
  display: grid;
  justify-items: start;
  gap: ${({ theme }) => theme.space.m};
  padding: ${({ theme }) => theme.space.xxl};
`

/** Waiting, failure and the thing itself, for every read the same. */
export function Loaded<T>({
  query,
  skeleton,
  children,
}: {
  query: UseQueryResult<T> | UseInfiniteQueryResult<T>
  skeleton?: ReactNode
  children: (data: T) => ReactNode
}) {
  if (query.isPending) return <div aria-busy="true">{skeleton ?? <Skeleton style={{ height: 220 }} />}</div>
  if (query.isLoadingError) return <Failure error={query.error} onRetry={() => void query.refetch()} />
  return <>{children(query.data as T)}</>
}
