import { fileURLToPath } from 'node:url'
import { drizzle, type NodePgQueryResultHKT } from 'drizzle-orm/node-postgres'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import type { PgDatabase } from 'drizzle-orm/pg-core'
import { Pool } from 'pg'

/** A database, or a transaction on it: what needs one can run inside the other. */
export type Database = PgDatabase<NodePgQueryResultHKT>

export const MIGRATIONS = fileURLToPath(new URL('../../migrations', import.meta.url))

/** Connects and brings the tables up to date. */
export async function openDatabase(url: string, migrationsFolder = MIGRATIONS): Promise<{ db: Database; pool: Pool; close: () => Promise<void> }> {
  const pool = new Pool({ connectionString: url, max: 10 })
  // A connection that dies while idle is replaced at the next query; without a listener it would take the process along.
  pool.on('error', () => undefined)
  const db = drizzle(pool)
  await migrate(db, { migrationsFolder })
  return { db, pool, close: () => pool.end() }
}
