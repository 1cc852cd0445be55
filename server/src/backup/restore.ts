import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { createGunzip } from 'node:zlib'
import type { RestoreReport } from '@tender/contract'
import type { Pool, PoolClient } from 'pg'
import { HttpProblem } from '../problem'
import { schemaOf } from './backUp'
import {
  FORMAT,
  TABLES,
  VERSION,
  type Head,
  type Row,
  type RowLine,
  type TableRule,
  type Tail,
} from './format'

/** A megabyte of bytes takes less than this as text. */
const LONGEST_LINE = 64 * 1024 * 1024
/** Nothing that a workshop holds unpacks to more. */
const MOST_UNPACKED = 64 * 1024 ** 3

const refused = (sentence: string) => new HttpProblem('FILE_REFUSED', `${sentence} Nothing was changed.`)

type Columns = ReadonlyMap<string, ReadonlySet<string>>
type Counts = { -readonly [K in 'added' | 'replaced' | 'kept' | 'same']: number }

/**
 * Brings a workshop's file into this one, all of it or nothing. What is not here is added; of what stands on
 * both sides the later change counts; names that another thing has here get a mark.
 * @param trial true tells what would happen and changes nothing
 * @throws HttpProblem FILE_REFUSED when the file is cut short, changed, of a later version or no copy at all
 */
export async function restore(pool: Pool, path: string, trial: boolean): Promise<RestoreReport> {
  const client = await pool.connect()
  try {
    await client.query('begin')
    await client.query('set local statement_timeout = 0')
    await client.query('set local idle_in_transaction_session_timeout = 0')
    const report = await bringAllIn(client, path)
    await client.query(trial ? 'rollback' : 'commit')
    return report
  } finally {
    // A transaction that was not ended goes with its connection.
    client.release(true)
  }
}

async function bringAllIn(client: PoolClient, path: string): Promise<RestoreReport> {
  const columns = await columnsOf(client)
  const hash = createHash('sha256')
  const counts = new Map<string, Counts>()
  const renamed: string[] = []
  /** What became of owners: their own rows go the same way. */
  const owners = new Map<string, keyof Counts>()
  const bytes = { sha256: '', hash: createHash('sha256') }
  let head: Head | null = null
  let tail: Tail | null = null
  let lines = 0
  for await (const text of linesIn(path)) {
    if (tail) throw refused('The copy goes on after its end: it was changed.')
    const content = parsed(text)
    if (!head) {
      head = headOf(content)
      if (head.schema > (await schemaOf(client)) || head.version > VERSION)
        throw refused(
          'The copy was made by a later version of Tender Bridge than this one; bring this one up to date first.',
        )
    } else if ('end' in content) {
      tail = content as Tail
      if (tail.lines !== lines || tail.sha256 !== hash.digest('hex'))
        throw refused('The copy was changed or damaged: what it holds is not what it says at its end.')
      continue
    } else await takeIn(content as RowLine)
    hash.update(`${text}\n`)
    lines++
  }
  if (!head) throw refused('The file is empty.')
  if (!tail) throw refused('The copy is cut short: its end is missing.')
  checkBytes()
  return {
    madeAt: head.madeAt,
    tables: Object.fromEntries(counts),
    renamed,
  }

  async function takeIn({ table, row }: RowLine): Promise<void> {
    const rule = TABLES.find((one) => one.table === table)
    const known = columns.get(table)
    if (!rule || !known || typeof row !== 'object' || row === null)
      throw refused(`The copy has rows of "${String(table)}", which nothing here is called.`)
    const strange = Object.keys(row).find((name) => !known.has(name))
    if (strange !== undefined)
      throw refused(`The copy has a column "${strange}" of "${table}", which nothing here is called.`)
    const count = counts.get(table) ?? { added: 0, replaced: 0, kept: 0, same: 0 }
    counts.set(table, count)
    if (table === 'blob_chunk') seeBytes(row)
    const became = await putRow(rule, row)
    count[became]++
    if (TABLES.some(({ owner }) => owner?.[0] === table))
      owners.set(`${table} ${String(row[rule.key[0]])}`, became)
  }

  /** Bytes are known by what they hash to: those that do not are no copy. */
  function seeBytes(row: Row): void {
    if (row.position === 0) {
      checkBytes()
      bytes.sha256 = String(row.sha256)
      bytes.hash = createHash('sha256')
    }
    bytes.hash.update(Buffer.from(String(row.bytes), 'base64'))
  }
  function checkBytes(): void {
    if (bytes.sha256 !== '' && bytes.hash.copy().digest('hex') !== bytes.sha256)
      throw refused('A file in the copy was changed: its bytes are not those it is known by.')
  }

  async function putRow(rule: TableRule, row: Row): Promise<keyof Counts> {
    const { table, key } = rule
    if (rule.owner) {
      const [owner, column] = rule.owner
      // Owned rows come with their owner, or not at all.
      const became = owners.get(`${owner} ${String(row[column])}`) ?? 'kept'
      if (became === 'added' || became === 'replaced') await insert(table, row, table === 'blob_chunk')
      return became
    }
    const at = key.map((name, i) => `${name} = $${i + 1}`).join(' and ')
    const { rows } = await client.query(
      `select row_to_json(t) as row from ${table} t where ${at}`,
      key.map((name) => row[name]),
    )
    const here = (rows[0] as { row: Row } | undefined)?.row
    if (!here) {
      await insert(table, rule.named ? await freelyNamed(table, row) : row)
      return 'added'
    }
    const order = rule.rule === 'once' ? 0 : later(rule, row, here)
    if (order <= 0) return order === 0 ? 'same' : 'kept'
    for (const { owner, table: owned } of TABLES)
      if (owner?.[0] === table)
        await client.query(`delete from ${owned} where ${owner[1]} = $1`, [row[key[0]]])
    const fresh = rule.named ? await freelyNamed(table, row) : row
    const names = Object.keys(fresh).filter((name) => !key.includes(name))
    await client.query(
      `update ${table} set (${names.join(', ')}) = (select ${names.join(', ')} from json_populate_record(null::${table}, $${key.length + 1})) where ${at}`,
      [...key.map((name) => row[name]), JSON.stringify(fresh)],
    )
    return 'replaced'
  }

  async function insert(table: string, row: Row, isBytes = false): Promise<void> {
    if (isBytes) {
      await client.query('insert into blob_chunk (sha256, position, bytes) values ($1, $2, $3)', [
        row.sha256,
        row.position,
        Buffer.from(String(row.bytes), 'base64'),
      ])
      return
    }
    const names = Object.keys(row).join(', ')
    await client.query(
      `insert into ${table} (${names}) select ${names} from json_populate_record(null::${table}, $1) on conflict do nothing`,
      [JSON.stringify(row)],
    )
  }

  /** A row under a name that nothing else here has. */
  async function freelyNamed(table: string, row: Row): Promise<Row> {
    const taken = async (name: string) =>
      (
        await client.query(`select 1 from ${table} where name = $1 and id <> $2 and deleted_at is null`, [
          name,
          row.id,
        ])
      ).rows.length > 0
    const name = String(row.name)
    if (row.deleted_at !== null || !(await taken(name))) return row
    for (let n = 1; ; n++) {
      const other = `${name.slice(0, 60)}, from the copy${n > 1 ? ` ${n}` : ''}`
      if (await taken(other)) continue
      renamed.push(`${name} is called ${other} now, since another ${table} here has its name.`)
      return { ...row, name: other }
    }
  }
}

/** Which of two rows was changed later: above 0 the copy's. */
function later(rule: TableRule, copy: Row, here: Row): number {
  if (rule.rule === 'field') return Number(copy.revision) - Number(here.revision)
  const timeOf = (row: Row) => {
    const times = [row.updated_at, row.deleted_at].map((time) => (time ? Date.parse(String(time)) : 0))
    return Math.max(...times)
  }
  return timeOf(copy) - timeOf(here) || Number(copy.revision) - Number(here.revision)
}

async function columnsOf(client: PoolClient): Promise<Columns> {
  const { rows } = await client.query(
    `select table_name, column_name from information_schema.columns where table_schema = 'public'`,
  )
  const found = new Map<string, Set<string>>()
  for (const { table_name: table, column_name: column } of rows as {
    table_name: string
    column_name: string
  }[])
    found.set(table, (found.get(table) ?? new Set()).add(column))
  return found
}

function parsed(text: string): object {
  try {
    const content: unknown = JSON.parse(text)
    if (typeof content === 'object' && content !== null) return content
  } catch {
    // Told below.
  }
  throw refused('The copy holds a line that is no JSON: it was changed or damaged.')
}

function headOf(content: object): Head {
  const head = content as Partial<Head>
  if (head.format !== FORMAT || typeof head.version !== 'number' || typeof head.schema !== 'number')
    throw refused('This is no copy of a workshop.')
  return head as Head
}

/**
 * Lines of a packed file. @throws HttpProblem FILE_REFUSED when it is not packed, or unpacks to more than a
 * workshop can be
 */
async function* linesIn(path: string): AsyncGenerator<string> {
  const packed = createReadStream(path)
  const unpacked = packed.pipe(createGunzip())
  let waiting: Buffer[] = []
  let [held, all] = [0, 0]
  try {
    for await (const piece of unpacked as AsyncIterable<Buffer>) {
      all += piece.length
      let from = 0
      for (let at = piece.indexOf(10); at >= 0; at = piece.indexOf(10, from)) {
        waiting.push(piece.subarray(from, at))
        yield Buffer.concat(waiting).toString('utf8')
        waiting = []
        held = 0
        from = at + 1
      }
      waiting.push(piece.subarray(from))
      held += piece.length - from
      if (held > LONGEST_LINE || all > MOST_UNPACKED)
        throw refused('The copy unpacks to more than a workshop can hold.')
    }
  } catch (error) {
    const { code } = error as { code?: string }
    if (code === 'Z_BUF_ERROR') throw refused('The copy is cut short: its end is missing.')
    if (code?.startsWith('Z_'))
      throw refused('The file is not packed as a copy of a workshop is, or it was damaged.')
    throw error
  } finally {
    packed.destroy()
  }
}
