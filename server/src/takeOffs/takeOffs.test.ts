import { randomUUID } from 'node:crypto'
import { expect, test } from '@jest/globals'
import { StoredTakeOff, type NoteChange } from '@tender/contract'
import { DEFAULT_PLAN } from '@tender/core/decide'
import { sql } from 'drizzle-orm'
import sharp from 'sharp'
import { purge } from '../storage/purge'
import { serverOfFile } from '../testing/serverOfFile'

const { server, api, put, bringIn } = serverOfFile()

const [filament] = DEFAULT_PLAN.filaments
const printed = {
  contacts: ['c1', 'c2'].map((key) => ({
    key,
    atMm: [1, 2, 10],
    holding: 0,
    kind: 'flat',
    access: 'open',
    areaMm2: 40,
    gapMm: 0.2,
    achievedGapMm: 0.2,
    interfaceSpacingMm: 0,
    interfaceLayers: 3,
    touching: filament.id,
    bulk: filament.id,
    guessed: 'surely',
    neckMm: null,
    outline: [[0, 0, 4, 0, 4, 10, 0, 10]],
  })),
  moreContacts: 0,
  silhouette: [[0, 0, 10, 0, 10, 20]],
  grams: [{ filament: filament.id, partG: 20, wasteG: 4 }],
  minutes: 3,
  timeS: 3600,
  heightMm: 30,
}

async function aPrint() {
  const { body: part } = await bringIn()
  const plan = await put('plans', { partId: part.id, document: DEFAULT_PLAN, figures: null })
  const input = {
    name: 'Plate, first print',
    printedOn: '2026-11-20',
    partId: part.id,
    planId: plan.id,
    bed: null,
    damp: false,
    lessonsLeftOut: [],
    document: plan.document,
    printed,
  }
  return { input, plan, part, takeOff: await put('take-offs', input) }
}
const note = (id: string, at: string, change: NoteChange) =>
  api().patch(`/api/take-offs/${id}/notes/${at}`).send(change)
const read = async (id: string): Promise<StoredTakeOff> =>
  StoredTakeOff.parse((await api().get(`/api/take-offs/${id}`)).body)

test('a print keeps its plan as printed: whatever becomes of the plan, and whoever tries to write it anew', async () => {
  const { input, plan, takeOff } = await aPrint()
  const changed = { ...plan.document, decisions: { ...plan.document.decisions, upperGapMm: 0.35 } }
  await api()
    .put(`/api/plans/${plan.id}?revision=1`)
    .send({ partId: input.partId, document: changed, figures: null })
    .expect(200)
  expect((await read(takeOff.id)).document.decisions.upperGapMm).toBe(DEFAULT_PLAN.decisions.upperGapMm)
  for (const forged of [{ document: changed }, { printed: { ...printed, minutes: 1 } }]) {
    const { body } = await api()
      .put(`/api/take-offs/${takeOff.id}?revision=1`)
      .send({ ...input, ...forged })
    expect(body).toMatchObject({ code: 'INVALID', title: expect.stringContaining('does not change') })
  }
  const renamed = await api()
    .put(`/api/take-offs/${takeOff.id}?revision=1`)
    .send({ ...input, name: 'Plate, on Friday', lessonsLeftOut: ['gap'] })
  expect(renamed.body).toMatchObject({ revision: 2, name: 'Plate, on Friday', lessonsLeftOut: ['gap'] })
  // The same print told twice is one print.
  expect(
    (
      await api()
        .put(`/api/take-offs/${takeOff.id}`)
        .send({ ...input, name: 'Plate, on Friday', lessonsLeftOut: ['gap'] })
    ).status,
  ).toBe(201)
  // A plan that goes for good leaves its prints behind.
  await api().delete(`/api/plans/${plan.id}`).expect(204)
  await server.db.execute(sql`update plan set deleted_at = now() - interval '60 days' where id = ${plan.id}`)
  await purge(server.db)
  expect(await read(takeOff.id)).toMatchObject({ planId: null, name: 'Plate, on Friday' })
})

test('a record fills in bit by bit, from two devices at once, and refuses only what another changed since', async () => {
  const { takeOff } = await aPrint()
  await note(takeOff.id, 'c1', { base: 0, by: 'bench', changes: { release: 2, finish: 3 } }).expect(200)
  await note(takeOff.id, 'c1', { base: 0, by: 'phone', changes: { stayed: 'some', specks: 'a few' } }).expect(
    200,
  )
  await note(takeOff.id, 'whole', { base: 0, by: 'phone', changes: { minutes: 6.5, tool: 'pliers' } }).expect(
    200,
  )
  // Sent twice, as after a lost answer.
  await note(takeOff.id, 'whole', { base: 0, by: 'phone', changes: { minutes: 6.5, tool: 'pliers' } }).expect(
    200,
  )
  const late = await note(takeOff.id, 'c1', { base: 0, by: 'phone', changes: { release: 5 } })
  expect(late.body).toMatchObject({ code: 'STALE', current: { release: 2, stayed: 'some' } })
  const { notes } = await read(takeOff.id)
  expect(notes).toEqual([
    expect.objectContaining({
      at: 'c1',
      revision: 2,
      release: 2,
      finish: 3,
      stayed: 'some',
      specks: 'a few',
    }),
    expect.objectContaining({ at: 'whole', revision: 1, minutes: 6.5, tool: 'pliers', partG: null }),
  ])
})

test('lists leave out what nobody asks a list for, and keep the rest as it is', async () => {
  const { takeOff } = await aPrint()
  await note(takeOff.id, 'c2', { base: 0, by: 'a', changes: { release: 1 } }).expect(200)
  const { body } = await api().get('/api/take-offs?limit=500')
  const listed = body.items.find(({ id }: { id: string }) => id === takeOff.id)
  const { document, ...rest } = await read(takeOff.id)
  expect(listed).toEqual({ ...rest, document: { ...document, evidence: {} } })
})

test('contacts that the print does not have, and values out of range, are refused by name', async () => {
  const { takeOff } = await aPrint()
  expect((await note(takeOff.id, 'c9', { base: 0, by: 'a', changes: { release: 1 } })).body).toMatchObject({
    code: 'INVALID',
    field: 'at',
    title: expect.stringContaining('"c9"'),
  })
  for (const changes of [{ release: 6 }, { minutes: -1 }, { stayed: 'most' }, {}])
    expect((await note(takeOff.id, 'c1', { base: 0, by: 'a', changes: changes as never })).body.status).toBe(
      422,
    )
  expect((await note(randomUUID(), 'c1', { base: 0, by: 'a', changes: { release: 1 } })).status).toBe(404)
})

test('pictures of a contact stay as long as the record, and go with it for good', async () => {
  const { takeOff, part } = await aPrint()
  const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#886' } })
    .png()
    .toBuffer()
  const id = randomUUID()
  const { body } = await api()
    .put(`/api/take-offs/${takeOff.id}/photos/c2/${id}`)
    .set('Content-Type', 'image/png')
    .send(picture)
  expect(body).toMatchObject({ id, at: 'c2', widthPx: 40 })
  await api().get(`/api/photos/${id}`).expect(200).expect('Content-Type', 'image/jpeg')
  await purge(server.db)
  expect((await read(takeOff.id)).photos).toHaveLength(1)
  await api().delete(`/api/photos/${id}`).expect(204)
  expect((await read(takeOff.id)).photos).toEqual([])
  await api().post(`/api/photos/${id}/restore`).expect(204)
  // A part whose prints are still told about does not go for good, though nobody sees it any more.
  await api().delete(`/api/parts/${part.id}`).expect(204)
  const long = sql`now() - interval '60 days'`
  await server.db.execute(sql`update part set deleted_at = ${long} where id = ${part.id}`)
  await server.db.execute(sql`update plan set deleted_at = ${long} where part_id = ${part.id}`)
  await purge(server.db)
  expect((await read(takeOff.id)).partName).toBe('Plate')
  await api().delete(`/api/take-offs/${takeOff.id}`).expect(204)
  await server.db.execute(sql`update take_off set deleted_at = ${long} where id = ${takeOff.id}`)
  expect(await purge(server.db)).toMatchObject({ takeOffs: 1, parts: 1 })
  await api().get(`/api/photos/${id}`).expect(404)
})
