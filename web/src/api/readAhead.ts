import type { QueryClient } from '@tanstack/react-query'
import { planAt } from './ahead'
import { familiesQuery } from './useFamilies'
import { lastKeptQuery } from './useLastKept'
import { listQuery, oneQuery } from './useShelf'

/**
 * Reads what was asked for ahead while the code of the first view is still on the way, so that the view finds
 * all of it there: what it draws until then, and draws again, is most of the time it takes.
 */
export function readAhead(client: QueryClient, pathname: string): void {
  const plan = planAt(pathname)
  if (!plan) return
  void client
    .fetchQuery(oneQuery('plans', plan))
    .then(({ partId }) => client.prefetchQuery(oneQuery('parts', partId)))
    // Whoever shows it says what is wrong.
    .catch(() => undefined)
  void client.prefetchQuery(listQuery('printers'))
  void client.prefetchQuery(listQuery('filaments'))
  void client.prefetchQuery(listQuery('trials'))
  void client.prefetchQuery(listQuery('takeOffs'))
  void client.prefetchQuery(familiesQuery)
  void client.prefetchQuery(lastKeptQuery(plan))
}
