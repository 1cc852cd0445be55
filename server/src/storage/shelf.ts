import { isDeepStrictEqual } from 'node:util'
import { and, eq, isNotNull, isNull, sql, type InferInsertModel, type InferSelectModel } from 'drizzle-orm'
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core'
import { HttpProblem } from '../problem'
import type { Database } from './database'

export type RootTable = PgTable & {
  id: PgColumn
  revision: PgColumn
  updatedAt: PgColumn
  deletedAt: PgColumn
}

/**
 * Writes the root row of an aggregate under optimistic locking. Revision null makes a new row; a row of that
 * id that is already there stays as it is: either the save was sent twice, or it is refused by `mustBeSame`
 * once the row can be read.
 * @param current reads the row as it stands, on the same connection as `db`: reading on another one while
 * this one waits could wait for ever
 * @returns the row as written, which nobody else can have changed since; null when nothing was written
 * @throws HttpProblem NOT_FOUND, GONE, STALE (with what `current` reads)
 */
export async function saveRoot<T extends RootTable>(
  db: Database,
  table: T,
  id: string,
  revision: number | null,
  values: Omit<InferInsertModel<T>, 'id'>,
  current: () => Promise<unknown>,
): Promise<InferSelectModel<T> | null> {
  if (revision !== null)
    return changeRoot(db, table, id, revision, values as Partial<InferInsertModel<T>>, current)
  const made = await db
    .insert(table)
    .values({ ...values, id } as never)
    .onConflictDoNothing({ target: table.id })
    .returning()
  return (made as InferSelectModel<T>[])[0] ?? null
}

/**
 * A thing made under an id that was taken: the same save sent twice is fine, anything else would be lost.
 * @throws HttpProblem STALE with what stands there
 */
export function mustBeSame<T extends object>(input: object, current: T): T {
  const there = current as Record<string, unknown>
  if (Object.entries(input).every(([key, value]) => isDeepStrictEqual(value, there[key]))) return current
  throw stale(current)
}

/**
 * Changes a root row that still has the revision the maker saw.
 * @throws HttpProblem NOT_FOUND, GONE, STALE (with what `current` reads)
 */
export async function changeRoot<T extends RootTable>(
  db: Database,
  table: T,
  id: string,
  revision: number,
  values: Partial<InferInsertModel<T>>,
  current: () => Promise<unknown>,
): Promise<InferSelectModel<T>> {
  const changed = await db
    .update(table)
    .set({ ...values, revision: sql`${table.revision} + 1`, updatedAt: sql`now()` } as never)
    .where(and(eq(table.id, id), eq(table.revision, revision), isNull(table.deletedAt)))
    .returning()
  if ((changed as unknown[]).length === 0) throw stale(await current())
  return (changed as InferSelectModel<T>[])[0]
}

/**
 * Marks a row as removed; nothing is lost.
 * @param revision what the maker was looking at; null removes whatever stands there
 * @throws HttpProblem NOT_FOUND, GONE, STALE
 */
export async function removeRoot(
  db: Database,
  table: RootTable,
  id: string,
  revision: number | null,
  current: () => Promise<unknown>,
): Promise<void> {
  const gone = await db
    .update(table)
    .set({ deletedAt: sql`now()` } as never)
    .where(
      and(
        eq(table.id, id),
        isNull(table.deletedAt),
        revision === null ? undefined : eq(table.revision, revision),
      ),
    )
    .returning({ id: table.id })
  if (gone.length === 0) throw stale(await current())
}

/**
 * Brings a removed row back; one that was never removed stays as it is.
 * @throws HttpProblem NOT_FOUND
 */
export async function restoreRoot(db: Database, table: RootTable, id: string): Promise<void> {
  await db
    .update(table)
    .set({ deletedAt: null } as never)
    .where(and(eq(table.id, id), isNotNull(table.deletedAt)))
}

/**
 * The one row that was asked for.
 * @throws HttpProblem NOT_FOUND when there never was one, GONE when it was removed
 */
export function mustStand<T>(row: T | undefined, deletedAt: Date | null | undefined): T {
  if (row === undefined) throw notFound()
  if (deletedAt) throw gone()
  return row
}

export const notFound = () =>
  new HttpProblem('NOT_FOUND', 'There is nothing at this address; it may have been removed.')
export const gone = () =>
  new HttpProblem(
    'GONE',
    'This was removed meanwhile. Nothing was saved to it; bring it back to go on with it.',
  )
export const stale = (current: unknown) =>
  new HttpProblem(
    'STALE',
    'This was changed somewhere else since you opened it. Nothing of yours was saved over it.',
    { current },
  )
