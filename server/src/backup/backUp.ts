import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable, type Writable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { createGzip } from 'node:zlib'
import type { Pool, PoolClient } from 'pg'
import { FORMAT, TABLES, VERSION, type Head, type Tail } from './format'

/** Rows fetched at a time: of bytes few, of anything else many. */
const FETCHED = 200
const CHUNKS_FETCHED = 4

/**
 * Everything the workshop has, as of one moment, into a stream. Jobs and their results are left out: they can
 * be done again.
 */
export async function backUp(pool: Pool, into: Writable): Promise<void> {
  const client = await pool.connect()
  try {
    await client.query('begin transaction isolation level repeatable read read only')
    await client.query('set local statement_timeout = 0')
    await client.query('set local idle_in_transaction_session_timeout = 0')
    await pipeline(Readable.from(linesOf(client)), createGzip({ level: 6 }), into)
  } finally {
    // Whatever state it is in, nobody else gets this connection.
    client.release(true)
  }
}

async function* linesOf(client: PoolClient): AsyncGenerator<string> {
  const hash = createHash('sha256')
  let lines = 0
  const line = (content: object) => {
    const text = `${JSON.stringify(content)}\n`
    hash.update(text)
    lines++
    return text
  }
  const head: Head = {
    format: FORMAT,
    version: VERSION,
    schema: await schemaOf(client),
    madeAt: new Date().toISOString(),
  }
  yield line(head)
  for (const { table, key } of TABLES) {
    const isBytes = table === 'blob_chunk'
    const what = isBytes ? 'sha256, position, bytes' : 'row_to_json(t) as row'
    await client.query(
      `declare rows_of no scroll cursor for select ${what} from ${table} t order by ${key.join(', ')}`,
    )
    for (;;) {
      const { rows } = await client.query(`fetch ${isBytes ? CHUNKS_FETCHED : FETCHED} from rows_of`)
      if (rows.length === 0) break
      for (const row of rows)
        yield line({
          table,
          row: isBytes
            ? { sha256: row.sha256, position: row.position, bytes: (row.bytes as Buffer).toString('base64') }
            : row.row,
        })
    }
    await client.query('close rows_of')
  }
  const tail: Tail = { end: true, lines, sha256: hash.digest('hex') }
  yield `${JSON.stringify(tail)}\n`
}

/** How many changes of form a database has seen. */
export async function schemaOf(client: Pick<PoolClient, 'query'>): Promise<number> {
  const { rows } = await client.query('select count(*)::int as count from drizzle.__drizzle_migrations')
  return (rows[0] as { count: number }).count
}

const KEPT_COPIES = 7
const DAY_MS = 24 * 3600 * 1000
const COPY = /^workshop-\d{4}-\d{2}-\d{2}\.jsonl\.gz$/

/**
 * Makes a copy of the day in a folder unless one was made within a day, and keeps the newest seven. It is
 * there whole or not at all.
 * @returns the file that was made, or null
 */
export async function copyOfTheDay(pool: Pool, folder: string, now = new Date()): Promise<string | null> {
  await mkdir(folder, { recursive: true })
  const copies = (await readdir(folder)).filter((name) => COPY.test(name)).sort()
  const newest = copies.at(-1)
  if (newest && now.getTime() - (await stat(join(folder, newest))).mtimeMs < DAY_MS) return null
  const name = `workshop-${now.toISOString().slice(0, 10)}.jsonl.gz`
  const making = join(folder, `${name}.part`)
  try {
    await backUp(pool, createWriteStream(making))
    await rename(making, join(folder, name))
  } finally {
    await rm(making, { force: true })
  }
  const kept = [...new Set([...copies, name])].sort()
  for (const old of kept.slice(0, -KEPT_COPIES)) await rm(join(folder, old), { force: true })
  return join(folder, name)
}
