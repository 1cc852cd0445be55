import { and, eq, isNotNull, isNull, sql, type InferInsertModel } from 'drizzle-orm'
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core'
import { HttpProblem } from '../problem'
import type { Database } from './database'

export type RootTable = PgTable & { id: PgColumn; revision: PgColumn; updatedAt: PgColumn; deletedAt: PgColumn }

/**
 * Writes the root row of an aggregate under optimistic locking.
 * Revision null makes a new row; a row of that id that is already there stays as it is (the save was sent twice).
 * @returns whether anything was written
 * @throws HttpProblem NOT_FOUND, STALE (with what `current` reads)
 */
export async function saveRoot<T extends RootTable>(
  db: Database,
  table: T,
  id: string,
  revision: number | null,
  values: Omit<InferInsertModel<T>, 'id'>,
  current: () => Promise<unknown>,
): Promise<boolean> {
  if (revision === null) {
    const made = await db.insert(table).values({ ...values, id } as never).onConflictDoNothing({ target: table.id }).returning({ id: table.id }) // prettier-ignore
    return made.length > 0
  }
  await changeRoot(db, table, id, revision, values as Partial<InferInsertModel<T>>, current)
  return true
}

/**
 * Changes a root row that still has the revision the maker saw.
 * @throws HttpProblem NOT_FOUND, STALE (with what `current` reads)
 */
export async function changeRoot<T extends RootTable>(db: Database, table: T, id: string, revision: number, values: Partial<InferInsertModel<T>>, current: () => Promise<unknown>): Promise<void> {
  const changed = await db
    .update(table)
    .set({ ...values, revision: sql`${table.revision} + 1`, updatedAt: sql`now()` } as never)
    .where(and(eq(table.id, id), eq(table.revision, revision), isNull(table.deletedAt)))
    .returning({ id: table.id })
  if (changed.length > 0) return
  throw new HttpProblem('STALE', 'This was changed somewhere else since you opened it. Nothing of yours was saved over it.', { current: await current() })
}

/** Marks a row as removed; nothing is lost. */
export async function removeRoot(db: Database, table: RootTable, id: string): Promise<void> {
  const gone = await db.update(table).set({ deletedAt: sql`now()` } as never).where(and(eq(table.id, id), isNull(table.deletedAt))).returning({ id: table.id }) // prettier-ignore
  if (gone.length === 0) throw notFound()
}

/** Brings a removed row back. */
export async function restoreRoot(db: Database, table: RootTable, id: string): Promise<void> {
  const back = await db.update(table).set({ deletedAt: null } as never).where(and(eq(table.id, id), isNotNull(table.deletedAt))).returning({ id: table.id }) // prettier-ignore
  if (back.length === 0) throw notFound()
}

export const notFound = () => new HttpProblem('NOT_FOUND', 'There is nothing at this address; it may have been removed.')
