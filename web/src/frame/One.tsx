import type { ReactNode } from 'react'
import { ApiError } from '../api/client'
import { shelves, type ItemOf, type ShelfName } from '../api/shelves'
import { useOne, useRestore } from '../api/useShelf'
import { Button } from '../ui/Button'
import { Page } from '../ui/Page'
import { Empty } from '../ui/States'
import { LoadedPage } from './LoadedPage'
import { LostPage } from './LostPage'

/** A view of one thing that the server keeps: waited for, not there, removed, or shown. */
export function One<N extends ShelfName>({
  name,
  id,
  children,
}: {
  name: N
  id: string
  children: (item: ItemOf<N>) => ReactNode
}) {
  const query = useOne(name, id)
  const restore = useRestore(name)
  const { called } = shelves[name]
  if (query.isLoadingError) {
    const code = query.error instanceof ApiError ? query.error.problem.code : null
    if (code === 'NOT_FOUND' || code === 'INVALID') return <LostPage />
    if (code === 'GONE')
      return (
        <Page title={`This ${called} was removed`}>
          <Empty
            action={
              <Button main isDisabled={restore.isPending} onPress={() => restore.mutate(id)}>
                Bring it back
              </Button>
            }
          >
            It stands in no list any more. Nothing of it is lost.
          </Empty>
        </Page>
      )
  }
  return (
    <LoadedPage query={query} called={called}>
      {children}
    </LoadedPage>
  )
}
