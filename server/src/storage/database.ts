import { drizzle, type NodePgQueryResultHKT } from 'drizzle-orm/node-postgres'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import type { PgDatabase } from 'drizzle-orm/pg-core'
import { Client, Pool } from 'pg'
import { MIGRATIONS } from '../places'

/** A database, or a transaction on it: what needs one can run inside the other. */
export type Database = PgDatabase<NodePgQueryResultHKT>

/**
 * Nobody waits longer than this for a connection, a lock or an answer: what cannot be done by then is told,
 * not hung on to.
 */
const LIMITS = {
  connectionTimeoutMillis: 5_000,
  statement_timeout: 30_000,
  lock_timeout: 10_000,
  idle_in_transaction_session_timeout: 30_000,
}
const CONNECTIONS = 10
/** So many stay, once opened: a view asks for several things, and a new connection takes longer than they. */
const KEPT = 4

/** Two starts that bring one database up to date at once take turns at this lock. */
const MIGRATION_LOCK = 74_103_651

export type OpenDatabase = { readonly db: Database; readonly pool: Pool; close(): Promise<void> }

/** Connects and brings the tables up to date. */
export async function openDatabase(url: string, migrationsFolder = MIGRATIONS): Promise<OpenDatabase> {
  await bringUpToDate(url, migrationsFolder)
  const pool = new Pool({
    connectionString: url,
    max: CONNECTIONS,
    min: KEPT,
    ...LIMITS,
    keepAlive: true,
  })
  // A connection that dies while idle is replaced at the next query; without a listener it would take the
  // process along.
  pool.on('error', () => undefined)
  return { db: drizzle(pool), pool, close: () => pool.end() }
}

/**
 * Moving a large workshop to a new form takes as long as it takes: on a connection without limits, one start
 * at a time.
 */
async function bringUpToDate(url: string, migrationsFolder: string): Promise<void> {
  const client = new Client({
    connectionString: url,
    connectionTimeoutMillis: LIMITS.connectionTimeoutMillis,
  })
  client.on('error', () => undefined)
  await client.connect()
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK])
    await migrate(drizzle(client), { migrationsFolder })
  } finally {
    // Closing the connection gives the lock back, whatever state it is in.
    await client.end()
  }
}

/** Whether the database answers within a moment. */
export async function answers(pool: Pool, withinMs = 2_000): Promise<boolean> {
  let timer: NodeJS.Timeout | undefined
  const late = new Promise<boolean>((resolve) => (timer = setTimeout(() => resolve(false), withinMs)))
  const asked = pool.query('select 1').then(
    () => true,
    () => false,
  )
  try {
    return await Promise.race([asked, late])
  } finally {
    clearTimeout(timer)
  }
}
