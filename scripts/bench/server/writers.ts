import { createReadStream, readdirSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { Readable } from 'node:stream'
import { aWorkshop } from './aWorkshop'

const WRITERS = 20
const CHANGES = 10
const ABANDONED = 20

/**
 * Twenty writers on one row, then uploads that nobody ends: no change that was acknowledged is lost, nothing
 * of the uploads stays.
 */
export async function benchWriters(): Promise<void> {
  const workshop = await aWorkshop()
  const api = `${workshop.url}/api`
  try {
    const { items } = (await (await fetch(`${api}/printers`)).json()) as {
      items: { id: string; revision: number }[]
    }
    const { id, revision: first, ...rest } = items[0]
    const { updatedAt: _, ...input } = rest as Record<string, unknown>
    let acknowledged = 0
    let refused = 0
    await Promise.all(
      Array.from({ length: WRITERS }, async (_w, writer) => {
        let revision = first
        for (let n = 0; n < CHANGES; n++) {
          const answer = await fetch(`${api}/printers/${id}?revision=${revision}`, {
            method: 'PUT',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify({ ...input, wallMmS: 30 + writer }),
          })
          const body = (await answer.json()) as { revision: number; current?: { revision: number } }
          if (answer.ok) acknowledged++
          else refused++
          revision = (body.current ?? body).revision
        }
      }),
    )
    const last = (await (await fetch(`${api}/printers/${id}`)).json()) as { revision: number }
    // Every acknowledged change is a revision of its own: none was written over one that its writer had not
    // seen.
    const lost = acknowledged - (last.revision - first)
    await Promise.all(
      Array.from({ length: ABANDONED }, async (_u, n) => {
        const leave = new AbortController()
        const body = Readable.toWeb(createReadStream('/dev/zero', { end: 4e6 }))
        setTimeout(() => leave.abort(), 20 + 10 * n)
        const path = `${api}/parts/${crypto.randomUUID()}/file?name=Left&fileName=left.stl`
        await fetch(path, {
          method: 'PUT',
          body: body as never,
          duplex: 'half',
          signal: leave.signal,
        } as RequestInit).catch(() => undefined)
      }),
    )
    await new Promise((resolve) => setTimeout(resolve, 1500))
    const left = readdirSync(tmpdir()).filter((name) => name.startsWith('tender-upload-')).length
    const parts = (await (await fetch(`${api}/parts?search=Left`)).json()) as { total: number }
    console.table([
      {
        writers: WRITERS,
        changes: WRITERS * CHANGES,
        acknowledged,
        refused,
        lost,
        'uploads left': left,
        'parts of them': parts.total,
      },
    ])
    console.log(
      'Acknowledged and lost: ' +
        lost +
        '; folders left by abandoned uploads: ' +
        left +
        '; wanted none of either.',
    )
  } finally {
    await workshop.discard()
  }
}
