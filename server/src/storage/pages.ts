import type { Page, PageQuery } from '@tender/contract'
import { sql } from 'drizzle-orm'
import { containing } from './search'

/** How many rows there are in all, counted along with the page. */
export const totalOver = sql<number>`(count(*) over ())::int`.as('total')

export type PageBounds = { readonly search: string; readonly limit: number; readonly offset: number }

/**
 * A page of a list, and how many there are in all.
 * @param rowsIn asks for the rows within bounds, each with the total
 */
export async function pageOf<Row, Item>(
  { search, limit, offset }: PageQuery,
  rowsIn: (bounds: PageBounds) => Promise<(Row & { readonly total: number })[]>,
  toItem: (row: Row) => Item,
): Promise<Page<Item>> {
  const bounds = { search: containing(search), limit, offset }
  const rows = await rowsIn(bounds)
  if (rows.length > 0) return { items: rows.map(toItem), total: rows[0].total }
  // A page past the end has no row that could tell.
  const [first] = offset === 0 ? [] : await rowsIn({ ...bounds, limit: 1, offset: 0 })
  return { items: [], total: first?.total ?? 0 }
}
