import pg from 'pg'
import { aWorkshop } from './aWorkshop'

const ROWS = 10_000
const TIMES = 7

/** Copies of what the demo has, each with an identity and a name of its own. */
async function multiply(databaseUrl: string): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl })
  await client.connect()
  for (const table of ['filament', 'trial', 'plan', 'take_off']) {
    const { rows } = await client.query<{ name: string }>(
      'select column_name as name from information_schema.columns where table_name = $1',
      [table],
    )
    const columns = rows.map(({ name }) => `"${name}"`)
    const values = columns.map((name) =>
      name === '"id"' ? 'gen_random_uuid()' : name === '"name"' ? `name || ' ' || n` : name,
    )
    await client.query(
      `with known as (select *, row_number() over () - 1 as turn, count(*) over () as all_of from "${table}")
       insert into "${table}" (${columns.join()})
       select ${values.join()} from generate_series(1, ${ROWS}) n join known on turn = n % all_of`,
    )
  }
  // Each trial is read as the one that it is a copy of.
  await client.query(
    `insert into step_reading
     select (jsonb_populate_record(reading, jsonb_build_object('trial_id', copy.id))).*
     from trial copy
     join trial original on original.name = regexp_replace(copy.name, ' \\d+$', '') and original.id <> copy.id
     join step_reading reading on reading.trial_id = original.id`,
  )
  await client.query('analyze')
  await client.end()
}

/** Pages of lists of ten thousand: the first, one far down, and one in an order that nothing is kept in. */
export async function benchLists(): Promise<void> {
  const workshop = await aWorkshop()
  try {
    await multiply(workshop.databaseUrl)
    const table: Record<string, string | number>[] = []
    for (const [path, other] of [
      ['filaments', '-left'],
      ['trials', 'name'],
      ['plans', '-mass'],
      ['take-offs', 'name'],
    ]) {
      const ms = async (query: string) => {
        const all: number[] = []
        for (let n = 0; n < TIMES; n++) {
          const began = performance.now()
          // Another question each time, so that no answer is ready.
          const answer = await fetch(`${workshop.url}/api/${path}?limit=60&search=&${query}&n=${n}`)
          await answer.arrayBuffer()
          if (!answer.ok) throw new Error(`${path}: ${answer.status}`)
          all.push(performance.now() - began)
        }
        return Math.round(all.toSorted((a, b) => a - b)[Math.floor(TIMES / 2)])
      }
      table.push({
        list: path,
        'first page, ms': await ms('offset=0'),
        'page from 9000, ms': await ms('offset=9000'),
        'in another order, ms': await ms(`order=${other}`),
      })
    }
    console.log(`Lists of ${ROWS} rows, in pages of 60; the middle of ${TIMES} times.`)
    console.table(table)
  } finally {
    await workshop.discard()
  }
}
