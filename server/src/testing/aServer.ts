import { randomUUID } from 'node:crypto'
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import pg from 'pg'
import { pino } from 'pino'
import { createApp } from '../app'
import { jobRepo } from '../jobs/repo'
import { MIGRATIONS } from '../places'
import { createPrintRuns } from '../printRuns/runs'
import type { DeviceAddresses } from '../printRuns/standIns'
import { openDatabase } from '../storage/database'
import { createReadCache } from '../storage/readCache'

type Journal = { entries: { tag: string }[] }

/** The migrations up to and with one of them, in a folder of their own. */
function migrationsUpTo(tag: string): string {
  const folder = mkdtempSync(join(tmpdir(), 'tender-migrations-'))
  cpSync(MIGRATIONS, folder, { recursive: true })
  const file = join(folder, 'meta/_journal.json')
  const journal = JSON.parse(readFileSync(file, 'utf8')) as Journal
  const last = journal.entries.findIndex((entry) => entry.tag === tag)
  if (last < 0) throw new Error(`There is no migration "${tag}".`)
  writeFileSync(file, JSON.stringify({ ...journal, entries: journal.entries.slice(0, last + 1) }))
  return folder
}

/**
 * The whole server on a database of its own, in the cluster that the test command started; with `upTo`, as an
 * older version left it.
 */
export async function aServer({
  upTo,
  standIns = {},
  patienceMs,
}: { upTo?: string; standIns?: DeviceAddresses; patienceMs?: number } = {}) {
  const url = process.env.TEST_DATABASE_URL
  if (!url) throw new Error('Server tests need TEST_DATABASE_URL; npm test sets it.')
  const name = `test_${randomUUID().replaceAll('-', '')}`
  const admin = new pg.Client({ connectionString: url })
  await admin.connect()
  await admin.query(`create database ${name}`)
  const own = new URL(url)
  own.pathname = `/${name}`
  const folder = upTo === undefined ? MIGRATIONS : migrationsUpTo(upTo)
  const { db, pool, close } = await openDatabase(own.href, folder)
  const jobs = jobRepo(db)
  const cache = createReadCache()
  const prints = mkdtempSync(join(tmpdir(), 'tender-prints-'))
  const runs = createPrintRuns({
    db,
    folder: prints,
    standIns,
    told: (error) => console.error(error),
    patienceMs,
  })
  if (folder !== MIGRATIONS) rmSync(folder, { recursive: true })
  return {
    db,
    pool,
    jobs,
    url: own.href,
    app: createApp({
      db,
      pool,
      jobs,
      cache,
      runs,
      standIns,
      log: pino({ level: 'silent' }),
      webFolder: null,
    }),
    /** Brings it up to date, as the next start would. */
    migrate: () => migrate(db as never, { migrationsFolder: MIGRATIONS }),
    runs,
    prints,
    close: async () => {
      await runs.leave()
      rmSync(prints, { recursive: true, force: true })
      await close()
      await admin.query(`drop database ${name} with (force)`)
      await admin.end()
    },
  }
}
