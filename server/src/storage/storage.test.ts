import { randomUUID } from 'node:crypto'
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@jest/globals'
import { sql } from 'drizzle-orm'
import { clearLeftUploads } from '../parts/uploadedFile'
import { aFilament, aPrinter } from '../testing/bench'
import { serverOfFile } from '../testing/serverOfFile'
import { purge } from './purge'

const { server, api, put, bringIn, aTrial } = serverOfFile()

test('thirty stale saves of a filament at once are all answered, and the server goes on', async () => {
  const { id, revision, updatedAt: _u, ...input } = await put('filaments', aFilament())
  await api()
    .put(`/api/filaments/${id}?revision=${revision}`)
    .send({ ...input, pricePerKg: 30 })
    .expect(200)
  const stale = Array.from({ length: 30 }, () => api().put(`/api/filaments/${id}?revision=1`).send(input))
  const answers = await Promise.all(stale)
  for (const { status, body } of answers) expect([status, body.current.pricePerKg]).toEqual([409, 30])
  expect((await api().get('/api/health')).body).toEqual({ ok: true })
}, 20_000)

test('whoever waits for a held row is told after a while; a spool that stands elsewhere is named', async () => {
  const made = await put('filaments', aFilament())
  const other = await api()
    .put(`/api/filaments/${randomUUID()}`)
    .send(aFilament({ spools: made.spools }))
  expect(other.body).toMatchObject({ status: 409, code: 'TAKEN', field: 'spools' })
  const holder = await server.pool.connect()
  await holder.query('begin')
  await holder.query('select * from filament where id = $1 for update', [made.id])
  const { id, revision, updatedAt: _u, ...input } = made
  const waiting = await api().put(`/api/filaments/${id}?revision=${revision}`).send(input)
  await holder.query('rollback')
  holder.release()
  expect(waiting.body).toMatchObject({
    status: 503,
    code: 'OFFLINE',
    title: expect.stringContaining('too long'),
  })
}, 30_000)

test('what was removed long ago goes for good, its mesh with it; what something still needs stays', async () => {
  const { body: gone } = await bringIn()
  const { trial } = await aTrial()
  const bare = await put('printers', aPrinter())
  const removed = [`parts/${gone.id}`, `printers/${bare.id}`, `filaments/${trial.partFilamentId}`]
  for (const path of removed) await api().delete(`/api/${path}`).expect(204)
  const meshes = async () =>
    (await server.pool.query('select 1 from blob where sha256 = $1', [gone.meshSha256])).rowCount
  expect(await purge(server.db)).toMatchObject({ parts: 0, meshes: 0 })
  expect(await meshes()).toBe(1)
  for (const table of ['part', 'printer', 'filament'])
    await server.db.execute(
      sql.raw(
        `update ${table} set deleted_at = deleted_at - interval '31 days' where deleted_at is not null`,
      ),
    )
  expect(await purge(server.db)).toMatchObject({ parts: 1, meshes: 1, blobs: 2, printers: 1, filaments: 0 })
  expect(await meshes()).toBe(0)
  expect((await api().get(`/api/parts/${gone.id}`)).status).toBe(404)
  expect((await api().get(`/api/trials/${trial.id}`)).body.partFilamentName).toBe(trial.partFilamentName)
})

test('a foreign name, and a change from a page of another place, are refused', async () => {
  const { id } = await put('printers', aPrinter())
  const from = (headers: Record<string, string>) => api().get(`/api/printers/${id}`).set(headers)
  expect((await from({ Host: 'workshop.example:80' })).body).toMatchObject({ status: 403, code: 'FORBIDDEN' })
  expect((await from({ Host: '' })).status).toBe(403)
  expect((await from({ Host: 'localhost:4780', Origin: 'http://elsewhere.example' })).status).toBe(200)
  const removal = (origin: string) => api().delete(`/api/printers/${id}`).set({ Origin: origin })
  for (const origin of ['http://elsewhere.example', 'null', 'http://127.0.0.1.elsewhere.example'])
    expect((await removal(origin)).status).toBe(403)
  expect((await removal('http://127.0.0.1:4780')).status).toBe(204)
})

test('what a killed server left of uploads is cleared by the next; what a living one takes in is left alone', async () => {
  const left = mkdtempSync(join(tmpdir(), 'tender-upload-4194301-'))
  const own = mkdtempSync(join(tmpdir(), `tender-upload-${process.pid}-`))
  await clearLeftUploads()
  expect([existsSync(left), existsSync(own)]).toEqual([false, true])
  rmSync(own, { recursive: true })
})
