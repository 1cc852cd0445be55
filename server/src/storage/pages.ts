import type { Page, PageQuery } from '@tender/contract'
import { and, asc, isNull, or, sql, type SQL, type SQLWrapper } from 'drizzle-orm'
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core'
import { HttpProblem } from '../problem'
import type { Database } from './database'
import { containing } from './search'
import type { RootTable } from './shelf'

type Joined = { readonly table: PgTable & { deletedAt: PgColumn }; readonly on: SQL }

/** How a shelf is listed: what is searched in, in which orders, and what else its rows can be narrowed to. */
export type Listing = {
  readonly table: RootTable
  /** What its rows hang on; where that was removed they are not listed. */
  readonly joined?: Joined
  /** Any of these holds what is searched for. */
  readonly searched: readonly SQLWrapper[]
  /** By name, the first of them the usual one: what counts first, and what counts among equals. */
  readonly orders: Readonly<Record<string, readonly SQLWrapper[]>>
  /** Whether the usual order runs downwards. */
  readonly usuallyDown?: boolean
  readonly narrowed?: Partial<Record<(typeof NARROWED)[number], (to: string) => SQL>>
}

const NARROWED = ['part', 'bed', 'read'] as const

/**
 * Answers for pages of a list. Which rows there are is asked first, and of these alone what they carry: what
 * hangs on rows of other pages costs nothing.
 * @param rowsOf reads rows by their identities, in any order
 */
export function pagesOf<Row, Item extends { readonly id: string }>(
  db: Database,
  listing: Listing,
  rowsOf: (ids: string[]) => Promise<Row[]>,
  toItem: (row: Row) => Item,
): (query: PageQuery) => Promise<Page<Item>> {
  return async (query) => {
    const { table } = listing
    const where = conditionOf(listing, query)
    const chosen = () => {
      const from = db
        .select({ id: table.id, total: sql<number>`(count(*) over ())::int`.as('total') })
        .from(table as PgTable)
        .$dynamic()
      const { joined } = listing
      return (joined ? from.innerJoin(joined.table, joined.on) : from).where(where)
    }
    const found = (await chosen()
      .orderBy(...orderOf(listing, query.order), asc(table.id))
      .limit(query.limit)
      .offset(query.offset)) as { id: string; total: number }[]
    if (found.length === 0) {
      // A page past the end has no row that could tell.
      const [first] = query.offset === 0 ? [] : ((await chosen().limit(1)) as { total: number }[])
      return { items: [], total: first?.total ?? 0 }
    }
    const rows = (await rowsOf(found.map(({ id }) => id))).map(toItem)
    const byId = new Map(rows.map((item) => [item.id, item]))
    return { items: found.flatMap(({ id }) => byId.get(id) ?? []), total: found[0].total }
  }
}

/** The rows of these identities, for a prepared query. */
export const amongIds = (column: PgColumn): SQL => sql`${column} = any(${sql.placeholder('ids')}::uuid[])`

function conditionOf({ table, joined, searched, narrowed = {} }: Listing, query: PageQuery): SQL | undefined {
  const pattern = containing(query.search)
  const words =
    query.search.trim() === '' ? undefined : or(...searched.map((one) => sql`${one} ilike ${pattern}`))
  const only = NARROWED.flatMap((name) => {
    const to = query[name]
    if (to === undefined) return []
    const narrow = narrowed[name]
    if (!narrow) throw new HttpProblem('INVALID', `This list cannot be narrowed by ${name}.`, { field: name })
    return [narrow(to)]
  })
  return and(isNull(table.deletedAt), joined && isNull(joined.table.deletedAt), words, ...only)
}

/** @throws HttpProblem INVALID when nothing is in such an order */
function orderOf({ orders, usuallyDown = false }: Listing, order: string): SQL[] {
  const names = Object.keys(orders)
  const down = order === '' ? usuallyDown : order.startsWith('-')
  const name = order === '' ? names[0] : order.replace('-', '')
  if (!Object.hasOwn(orders, name))
    throw new HttpProblem('INVALID', `There is no order "${order}" here, only ${names.join(', ')}.`, {
      field: 'order',
    })
  // What is not known stands last, either way round.
  const [first, ...rest] = orders[name]
  return [down ? sql`${first} desc nulls last` : sql`${first} asc nulls last`, ...rest.map((one) => asc(one))]
}
