import type { Pages } from '../api/useShelf'
import { Button } from './Button'

/** The way to the next rows of a list that comes in pages; nothing once all are there. */
export function MoreRows({ pages }: { readonly pages: Pages<unknown> }) {
  if (!pages.hasNextPage) return null
  const { items, total } = pages.data!
  return (
    <Button isDisabled={pages.isFetchingNextPage} onPress={() => void pages.fetchNextPage()}>
      Show more of {total}, {items.length} shown
    </Button>
  )
}
