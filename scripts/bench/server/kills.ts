import { PLAIN_PRINTER } from '@tender/core/bench'
import { randomUUID } from 'node:crypto'
import { aWorkshop, type Workshop } from './aWorkshop'

const { id: _plain, ...TWIN } = PLAIN_PRINTER

const KILLS = 50
const WRITERS = 4
const BETWEEN_KILLS_MS = 400

const put = (url: string, path: string, body: unknown) =>
  fetch(`${url}/api/${path}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  })

/** Writes until told to stop; what the server acknowledged is remembered. */
async function writer(url: string, acknowledged: Map<string, number>, stopped: () => boolean): Promise<void> {
  while (!stopped()) {
    const id = randomUUID()
    try {
      const made = await put(url, `printers/${id}`, { ...TWIN, name: `Printer ${id}` })
      if (made.status !== 201) continue
      acknowledged.set(id, 1)
      const changed = await put(url, `printers/${id}?revision=1`, {
        ...TWIN,
        name: `Printer ${id}`,
        wallMmS: 77,
      })
      if (changed.status === 200) acknowledged.set(id, 2)
    } catch {
      // The server is away; nothing was acknowledged.
      await new Promise((resolve) => setTimeout(resolve, 30))
    }
  }
}

async function run(
  name: string,
  kill: (workshop: Workshop) => Promise<void>,
): Promise<Record<string, string | number>> {
  const workshop = await aWorkshop()
  const acknowledged = new Map<string, number>()
  let stopped = false
  const writers = Array.from({ length: WRITERS }, () => writer(workshop.url, acknowledged, () => stopped))
  for (let k = 0; k < KILLS; k++) {
    await new Promise((resolve) => setTimeout(resolve, BETWEEN_KILLS_MS))
    await kill(workshop)
  }
  stopped = true
  await Promise.all(writers)
  // Where nothing was acknowledged nothing can be lost: that would say nothing.
  if (acknowledged.size === 0) throw new Error('No write was acknowledged; the server refuses what is sent.')
  let lost = 0
  for (const [id, revision] of acknowledged) {
    const answer = await fetch(`${workshop.url}/api/printers/${id}`)
    const stored = answer.ok ? ((await answer.json()) as { revision: number }) : { revision: 0 }
    if (stored.revision < revision) lost++
  }
  await workshop.discard()
  return { killed: name, times: KILLS, acknowledged: acknowledged.size, lost }
}

/**
 * The server, then its database, killed without a word again and again amid writes: whatever was acknowledged
 * must be there.
 */
export async function benchKills(): Promise<void> {
  const rows = [
    await run('server', (one) => one.restart()),
    await run('database', (one) => one.killDatabase()),
  ]
  console.table(rows)
  console.log(`Acknowledged and lost: ${rows.reduce((sum, { lost }) => sum + Number(lost), 0)}; wanted none.`)
}
