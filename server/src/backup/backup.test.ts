import { createWriteStream } from 'node:fs'
import { mkdtemp, readdir, readFile, rm, utimes, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { gunzipSync, gzipSync } from 'node:zlib'
import { randomUUID } from 'node:crypto'
import type { RestoreReport } from '@tender/contract'
import sharp from 'sharp'
import { aServer } from '../testing/aServer'
import { aFilament, makerOf } from '../testing/bench'
import { backUp, copyOfTheDay } from './backUp'
import { TABLES } from './format'
import { restore } from './restore'

type Server = Awaited<ReturnType<typeof aServer>>
let folder: string
const servers: Server[] = []
const another = async () => {
  const server = await aServer()
  servers.push(server)
  return { server, ...makerOf(server) }
}
beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), 'tender-backup-test-'))))
afterAll(async () => {
  for (const server of servers) await server.close()
  await rm(folder, { recursive: true })
})

const copyOf = async ({ pool }: Server, name: string): Promise<string> => {
  const path = join(folder, name)
  await backUp(pool, createWriteStream(path))
  return path
}
/** Everything a database holds, table by table. */
async function allOf({ pool }: Server): Promise<Record<string, unknown[]>> {
  const found: Record<string, unknown[]> = {}
  for (const { table, key } of TABLES)
    found[table] = (
      await pool.query(`select row_to_json(t) as row from ${table} t order by ${key.join(', ')}`)
    ).rows
  return found
}
const sum = ({ tables }: RestoreReport, of: 'added' | 'replaced' | 'kept') =>
  Object.values(tables).reduce((all, counts) => all + counts[of], 0)

test('backup, wipe, restore: every row and every byte is there again, and a second time changes nothing', async () => {
  const from = await another()
  const { trial } = await from.aTrial()
  await from
    .api()
    .patch(`/api/trials/${trial.id}/readings/0:0.2`)
    .send({ base: 0, by: 'a', changes: { release: 2 } })
  const photo = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#596' } })
    .png()
    .toBuffer()
  await from
    .api()
    .put(`/api/trials/${trial.id}/photos/0:0.2/${randomUUID()}`)
    .send(photo)
    .set('Content-Type', 'image/png')
    .expect(201)
  const part = await from.bringIn()
  const removed = await from.put('filaments', aFilament({ name: 'Gone by Friday' }))
  await from.api().delete(`/api/filaments/${removed.id}`).expect(204)
  const path = await copyOf(from.server, 'whole.jsonl.gz')

  const into = await another()
  const asked = await restore(into.server.pool, path, true)
  expect(Object.values(await allOf(into.server)).flat()).toEqual([])
  const done = await restore(into.server.pool, path, false)
  expect(done).toEqual(asked)
  expect(await allOf(into.server)).toEqual(await allOf(from.server))
  const mesh = `/api/meshes/${part.body.meshSha256}`
  expect((await into.fileAt(mesh)).body.equals((await from.fileAt(mesh)).body)).toBe(true)
  const again = await restore(into.server.pool, path, false)
  expect([sum(again, 'added'), sum(again, 'replaced'), again.renamed]).toEqual([0, 0, []])
})

test('into a filled workshop: the later change counts on either side, names that are taken are marked, and both are told', async () => {
  const [home, away] = [await another(), await another()]
  const filament = await home.put('filaments', aFilament({ name: 'Chalk PLA' }))
  const other = await home.put('filaments', aFilament({ name: 'Moss PETG' }))
  await restore(away.server.pool, await copyOf(home.server, 'first.jsonl.gz'), false)
  const change = async (at: typeof home, was: typeof filament, colour: string) => {
    const { id, revision, updatedAt: _, ...input } = was
    return (
      await at
        .api()
        .put(`/api/filaments/${id}?revision=${revision}`)
        .send({ ...input, colour })
    ).body
  }
  // One is changed later at home, one later on the road; and the road has a Fog of its own.
  await change(home, other, '#111111')
  await change(away, filament, '#222222')
  await change(away, other, '#333333')
  await change(home, filament, '#444444')
  await home.put('filaments', aFilament({ name: 'Fog HIPS' }))
  await away.put('filaments', aFilament({ name: 'Fog HIPS' }))
  const report = await restore(away.server.pool, await copyOf(home.server, 'second.jsonl.gz'), false)
  expect(report.tables.filament).toEqual({ added: 1, replaced: 1, kept: 1, same: 0 })
  expect(report.renamed).toEqual([expect.stringContaining('Fog HIPS is called Fog HIPS, from the copy now')])
  const { body } = await away.api().get('/api/filaments')
  const colours = Object.fromEntries(
    body.items.map((one: { name: string; colour: string }) => [one.name, one.colour]),
  )
  expect(colours).toMatchObject({ 'Chalk PLA': '#444444', 'Moss PETG': '#333333' })
  expect(Object.keys(colours)).toHaveLength(4)
  // Spools stand where their filament stands, once.
  expect(body.items.every((one: { spools: unknown[] }) => one.spools.length === 1)).toBe(true)
})

test('a copy that was cut short, changed, of a later version or no copy at all is refused with what is wrong; nothing changes', async () => {
  const from = await another()
  await from.bringIn()
  const path = await copyOf(from.server, 'good.jsonl.gz')
  const packed = await readFile(path)
  const text = gunzipSync(packed).toString()
  const lines = text.trimEnd().split('\n')
  const bad: [string, Buffer, string][] = [
    ['half', packed.subarray(0, packed.length / 2), 'cut short'],
    ['no end', gzipSync(`${lines.slice(0, -1).join('\n')}\n`), 'cut short'],
    [
      'a row less',
      gzipSync(`${[...lines.slice(0, 4), ...lines.slice(5)].join('\n')}\n`),
      'changed or damaged',
    ],
    ['another value', gzipSync(text.replace('"Plate"', '"Slate"')), 'changed or damaged'],
    ['later', gzipSync(text.replace(/"schema":\d+/, '"schema":999')), 'later version'],
    ['strange table', gzipSync(text.replace('"table":"part"', '"table":"job"')), 'rows of "job"'],
    ['strange column', gzipSync(text.replace('"file_name"', '"password"')), 'column "password"'],
    ['text', Buffer.from('Dear workshop'), 'not packed'],
    ['another file', gzipSync('{"hello":1}\n'), 'no copy of a workshop'],
    ['empty', Buffer.alloc(0), 'cut short'],
  ]
  // Bytes that are not what they hash to, with an end that was made to fit.
  const chunkAt = lines.findIndex((line) => line.includes('"blob_chunk"'))
  const forged = lines.with(chunkAt, lines[chunkAt].replace(/"bytes":"..../, '"bytes":"AAAA'))
  const into = await another()
  for (const [name, content, says] of bad) {
    await writeFile(join(folder, name), content)
    const failed = await restore(into.server.pool, join(folder, name), false).catch((error: Error) => error)
    expect([name, (failed as Error).message]).toEqual([name, expect.stringContaining(says)])
    expect((failed as Error).message).toContain('Nothing was changed.')
  }
  await writeFile(join(folder, 'forged'), gzipSync(`${forged.join('\n')}\n`))
  await expect(restore(into.server.pool, join(folder, 'forged'), false)).rejects.toThrow(/changed/)
  expect(Object.values(await allOf(into.server)).flat()).toEqual([])
  // Over the wire the same sentence comes.
  const { body } = await into
    .api()
    .post('/api/backup')
    .set('Content-Type', 'application/gzip')
    .send(Buffer.from('no'))
  expect(body).toMatchObject({ code: 'FILE_REFUSED', title: expect.stringContaining('Nothing was changed.') })
})

test('a copy is made once a day, and the last seven stay', async () => {
  const { server } = await another()
  const copies = join(folder, 'copies')
  const day = 24 * 3600 * 1000
  const start = Date.parse('2026-11-01T02:00:00Z')
  for (let n = 0; n < 9; n++) {
    const now = new Date(start + n * day)
    const made = await copyOfTheDay(server.pool, copies, now)
    await utimes(made!, now, now)
    expect(await copyOfTheDay(server.pool, copies, new Date(now.getTime() + day / 2))).toBeNull()
  }
  const names = (await readdir(copies)).sort()
  expect(names).toHaveLength(7)
  expect([names[0], names.at(-1)]).toEqual(['workshop-2026-11-03.jsonl.gz', 'workshop-2026-11-09.jsonl.gz'])
  expect((await restore(server.pool, join(copies, names[6]), true)).renamed).toEqual([])
})
