import { createHash, randomUUID } from 'node:crypto'
import { describe, expect, test } from '@jest/globals'
import { knownTrial, type Plan, Printer, StoredFilament, Trial } from '@tender/contract'
import { meshBounds, openMesh, unpackMesh, write3mf, writeStl } from '@tender/core/mesh'
import { DEFAULT_PLAN } from '@tender/core/decide'
import { box, sphere } from '@tender/core/testing'
import { sql } from 'drizzle-orm'
import sharp from 'sharp'
import request from 'supertest'
import { seedDemo } from './demo/seedDemo'
import { openDatabase } from './storage/database'
import { aServer } from './testing/aServer'
import { aFilament, aPrinter, makerOf } from './testing/bench'
import { serverOfFile } from './testing/serverOfFile'

const { server, api, put, aTrial, bringIn: aPart, fileAt } = serverOfFile()

describe('every shelf', () => {
  test('saves, reads, lists in pages with search, removes and brings back', async () => {
    const made = await put('filaments', aFilament({ name: 'Moss 100% PETG' }))
    expect(made).toMatchObject({
      revision: 1,
      name: 'Moss 100% PETG',
      spools: [{ label: 'new', gramsLeft: 1000 }],
    })
    expect((await api().get(`/api/filaments/${made.id}`)).body).toEqual(made)
    const found = async (search: string) => (await api().get('/api/filaments').query({ search })).body
    expect((await found('100%')).items).toEqual([made])
    // The percent sign is text, not a pattern.
    expect((await found('1%0')).total).toBe(0)
    expect((await api().delete(`/api/filaments/${made.id}`)).status).toBe(204)
    expect((await found('100%')).total).toBe(0)
    expect((await api().delete(`/api/filaments/${made.id}`)).body).toMatchObject({
      status: 410,
      code: 'GONE',
    })
    const gone = await api().get(`/api/filaments/${made.id}`)
    expect([gone.status, gone.headers['cache-control']]).toEqual([410, 'no-store'])
    const { id: _id, revision: _revision, updatedAt: _at, ...input } = made
    expect((await api().put(`/api/filaments/${made.id}?revision=1`).send(input)).body).toMatchObject({
      code: 'GONE',
      title: expect.stringContaining('removed'),
    })
    expect((await api().post(`/api/filaments/${made.id}/restore`)).body).toEqual(made)
    expect((await found('100%')).total).toBe(1)
    for (let i = 0; i < 3; i++) await put('printers', aPrinter({ name: `Page ${i}` }))
    const page = (await api().get('/api/printers').query({ search: 'Page', limit: 2, offset: 1 })).body
    expect(page).toMatchObject({ total: 3, items: [{ name: 'Page 1' }, { name: 'Page 2' }] })
  })

  test('a save sent twice is one save, and one over somebody else’s change is refused with what stands there', async () => {
    const id = randomUUID()
    const input = aPrinter()
    expect((await put('printers', input, id)).revision).toBe(1)
    // Another thing under the same name is no second sending.
    expect(
      (
        await api()
          .put(`/api/printers/${id}`)
          .send({ ...input, wallMmS: 71 })
      ).body,
    ).toMatchObject({ code: 'STALE' })
    const mine = await api()
      .put(`/api/printers/${id}?revision=1`)
      .send({ ...input, wallMmS: 70 })
    expect(mine).toMatchObject({ status: 200, body: { revision: 2, wallMmS: 70 } })
    const theirs = await api()
      .put(`/api/printers/${id}?revision=1`)
      .send({ ...input, wallMmS: 90 })
    expect(theirs.status).toBe(409)
    expect(theirs.type).toBe('application/problem+json')
    expect(theirs.body).toMatchObject({
      code: 'STALE',
      title: expect.stringContaining('changed somewhere else'),
      current: { revision: 2, wallMmS: 70 },
    })
    expect((await api().get(`/api/printers/${id}`)).body.wallMmS).toBe(70)
    // Nobody removes what they have not seen.
    expect((await api().delete(`/api/printers/${id}?revision=1`)).body).toMatchObject({ code: 'STALE' })
    expect((await api().delete(`/api/printers/${id}?revision=2`)).status).toBe(204)
  })

  test('twenty tabs saving the same revision: exactly one wins', async () => {
    const made = await put('printers', aPrinter())
    const { id, revision: _r, updatedAt: _u, ...input } = made
    const answers = await Promise.all(
      Array.from({ length: 20 }, (_, i) =>
        api()
          .put(`/api/printers/${id}?revision=1`)
          .send({ ...input, wallMmS: 50 + i }),
      ),
    )
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1)
    expect(answers.filter(({ status }) => status === 409)).toHaveLength(19)
    expect((await api().get(`/api/printers/${id}`)).body.revision).toBe(2)
  })

  test('bad input is refused by field, and nothing is stored', async () => {
    const refused = async (shelf: string, input: unknown) =>
      (
        await api()
          .put(`/api/${shelf}/${randomUUID()}`)
          .send(input as object)
      ).body
    expect(await refused('filaments', aFilament({ densityGcm3: 99 }))).toMatchObject({
      status: 422,
      code: 'INVALID',
      field: 'densityGcm3',
      title: '"densityGcm3" must be at most 5.',
    })
    expect(
      await refused('filaments', aFilament({ spools: [{ id: randomUUID(), label: '', gramsLeft: -3 }] })),
    ).toMatchObject({ field: 'spools.0.gramsLeft' })
    expect(await refused('printers', aPrinter({ loads: 1 }))).toMatchObject({ field: 'loads' })
    expect(await refused('printers', { ...aPrinter(), wallMmS: null })).toMatchObject({ field: 'wallMmS' })
    expect(
      (
        await api()
          .put(`/api/printers/${randomUUID()}`)
          .send(aPrinter({ name: 'a\u0000b' }))
      ).body,
    ).toMatchObject({
      code: 'INVALID',
      title: expect.stringContaining('cannot be stored'),
    })
    expect((await api().get('/api/printers').query({ search: 'a\u0000b' })).status).toBe(422)
    for (const path of ['/api/printers/%', '/api/plans/%ff'])
      expect([path, (await api().get(path)).status]).toEqual([path, 400])
    const taken = aFilament()
    await put('filaments', taken)
    expect(await refused('filaments', taken)).toMatchObject({
      status: 409,
      code: 'NAME_TAKEN',
      field: 'name',
    })
    expect(
      (
        await api()
          .put(`/api/printers/${randomUUID()}`)
          .set('Content-Type', 'application/json')
          .send('{ nope')
      ).body,
    ).toMatchObject({
      code: 'INVALID',
      title: expect.stringContaining('not valid JSON'),
    })
    expect((await api().get('/api/printers/12')).status).toBe(422)
    expect((await api().get(`/api/plans/${randomUUID()}`)).body).toMatchObject({
      status: 404,
      code: 'NOT_FOUND',
    })
    expect((await api().get('/api/nothing')).body).toMatchObject({ status: 404 })
    expect((await api().put(`/api/printers/${randomUUID()}?revision=1`).send(aPrinter())).status).toBe(404)
  })

  test('a save that fails half-way leaves what was there', async () => {
    const made = await put('filaments', aFilament())
    // A spool that the database itself refuses, past what the contract would have let through.
    const { filamentShelf } = await import('./filaments/repo')
    const { id, revision, updatedAt: _u, ...input } = made
    await expect(
      filamentShelf(server.db).save(id, revision, {
        ...input,
        name: 'Half',
        spools: [{ ...input.spools[0], id: randomUUID(), gramsLeft: NaN }],
      }),
    ).rejects.toThrow()
    expect((await api().get(`/api/filaments/${id}`)).body).toEqual(made)
  })
})

describe('trials', () => {
  test('a changed coupon keeps the readings of the steps it still has, and those of others for later', async () => {
    const { input, trial } = await aTrial()
    const reading = { grade: null, release: 3, finish: 1, forceN: null, leftOut: false }
    await api().put(`/api/trials/${trial.id}/readings/0:0.1`).send(reading)
    const narrower = { ...input, coupon: { kind: 'gap', gapsMm: [0.2, 0.3], spacingsMm: [0] } }
    expect((await api().put(`/api/trials/${trial.id}?revision=1`).send(narrower)).status).toBe(200)
    expect((await api().put(`/api/trials/${trial.id}?revision=2`).send(input)).body.readings).toHaveLength(1)
  })

  test('a filament that a trial was printed in can leave the bench; the trial keeps its name', async () => {
    const { trial } = await aTrial()
    await api().delete(`/api/filaments/${trial.partFilamentId}`)
    expect((await api().get(`/api/trials/${trial.id}`)).body.partFilamentName).toBe(trial.partFilamentName)
    expect(
      (
        await api()
          .put(`/api/trials/${randomUUID()}`)
          .send({ ...(await aTrial()).input, printerId: randomUUID() })
      ).body,
    ).toMatchObject({ code: 'INVALID', title: expect.stringContaining('not on the bench') })
  })
})

describe('parts', () => {
  test('a file is stored by its content, comes back byte for byte, and is stored once', async () => {
    const bytes = writeStl(sphere(20, 200))
    expect(bytes.length).toBeGreaterThan(1.5e6)
    const first = await aPart(bytes)
    expect(first).toMatchObject({
      status: 201,
      body: {
        name: 'Plate',
        fileName: 'plate.stl',
        byteLength: bytes.length,
        facts: { watertight: true, shells: 1 },
        pose: { scale: 1 },
      },
    })
    const second = await aPart(bytes)
    expect(second.body.meshSha256).toBe(first.body.meshSha256)
    expect(second.body.id).not.toBe(first.body.id)
    const { rows } = await server.db.execute<{ count: string }>(
      sql`select count(*) from mesh where sha256 = ${first.body.meshSha256}`,
    )
    expect(Number(rows[0].count)).toBe(1)
    const back = await fileAt(`/api/meshes/${first.body.meshSha256}`)
    expect(Buffer.compare(back.body as Buffer, Buffer.from(bytes))).toBe(0)
    expect(back.headers['cache-control']).toContain('immutable')
  })

  test('OBJ and 3MF files are parts too; a 3MF says its unit, so a small one stays small', async () => {
    const bring = (bytes: Uint8Array, fileName: string) =>
      api()
        .put(`/api/parts/${randomUUID()}/file?name=Plate&fileName=${fileName}`)
        .set('Content-Type', 'application/octet-stream')
        .send(Buffer.from(bytes))
    const small = write3mf('Plate', [{ name: 'Plate', colour: '#a5a8b4', mesh: box([1, 2, 3]) }])
    expect((await bring(small, 'plate.3mf')).body).toMatchObject({
      facts: { triangles: 12, watertight: true, sizeMm: [1, 2, 3] },
      pose: { scale: 1 },
      notes: [],
    })
    const { positionsMm: p, corners: c } = box([10, 20, 30])
    const obj = `${Array.from({ length: p.length / 3 }, (_, v) => `v ${p[3 * v]} ${p[3 * v + 1]} ${p[3 * v + 2]}`).join('\n')}\n${Array.from({ length: c.length / 3 }, (_, t) => `f ${c[3 * t] + 1} ${c[3 * t + 1] + 1} ${c[3 * t + 2] + 1}`).join('\n')}\nf 1 2 99\n`
    expect((await bring(Buffer.from(obj), 'plate.obj')).body).toMatchObject({
      facts: { triangles: 12, volumeMm3: 6000 },
      notes: [expect.stringContaining('1 face names a corner')],
    })
    expect((await bring(Buffer.from('PK\u0003\u0004 nothing'), 'plate.3mf')).body).toMatchObject({
      code: 'FILE_NOT_MESH',
    })
  })

  test('a file that is no part is refused with its sentence, and nothing of it is stored', async () => {
    const before = (await api().get('/api/parts')).body.total
    for (const [bytes, sentence, code] of [
      [Buffer.alloc(0), 'is empty', 'FILE_EMPTY'],
      [Buffer.from('hello'), 'plain text', 'FILE_NOT_STL'],
      [Buffer.alloc(84), '0 triangles', 'MESH_EMPTY'],
    ] as const) {
      const { status, body } = await aPart(bytes)
      expect(status).toBe(422)
      expect(body).toMatchObject({ code, title: expect.stringContaining(sentence) })
    }
    expect((await api().get('/api/parts')).body.total).toBe(before)
  })

  test('tags, zones and bodies come back as saved and tags are found; a newer version lies as the older one did', async () => {
    const { body: part } = await aPart(writeStl(box([12, 20, 31])))
    const zones = [
      {
        id: 'z',
        name: 'Cable way',
        kind: 'keepOff',
        limitDeg: 90,
        shape: { kind: 'cylinder', footMm: [1, 2, 3], radiusMm: 4, heightMm: 5 },
      },
    ]
    const changed = {
      name: part.name,
      pose: { turn: [1, 0, 0, 0], scale: 2 },
      tags: ['mast top'],
      zones,
      bodies: ['part'],
      olderId: null,
    }
    expect((await api().put(`/api/parts/${part.id}?revision=1`).send(changed)).body).toMatchObject(changed)
    const { body: found } = await api().get('/api/parts?search=mast')
    expect(found.items.map((one: { id: string }) => one.id)).toEqual([part.id])
    const newer = await api()
      .put(`/api/parts/${randomUUID()}/file`)
      .query({ name: 'Plate', fileName: 'plate.stl', olderId: part.id })
      .send(Buffer.from(writeStl(box([12, 20, 32]))))
    expect(newer.body).toMatchObject({
      olderId: part.id,
      pose: changed.pose,
      tags: changed.tags,
      zones,
      meshBodies: [{ name: '', triangles: 12 }],
    })
    for (const wrong of [
      { ...changed, zones: [{ ...zones[0], limitDeg: 91 }] },
      { ...changed, tags: [''] },
      { ...changed, zones: [{ ...zones[0], shape: { kind: 'box', minMm: [0, 0, 0], maxMm: [1, 0, 1] } }] },
    ])
      expect((await api().put(`/api/parts/${part.id}?revision=2`).send(wrong)).status).toBe(422)
    expect((await api().put(`/api/parts/${part.id}?revision=1`).send(changed)).body).toMatchObject({
      code: 'STALE',
      current: { tags: ['mast top'] },
    })
  })

  test('a large file is taken in piece by piece and given back the same, while others are answered', async () => {
    const bytes = Buffer.from(writeStl(sphere(20, 420)))
    expect(bytes.length).toBeGreaterThan(8e6)
    const coming = aPart(bytes)
    const others = await Promise.all(Array.from({ length: 5 }, () => api().get('/api/health')))
    for (const { status } of others) expect(status).toBe(200)
    const { body } = await coming
    expect(body.byteLength).toBe(bytes.length)
    expect(Buffer.compare((await fileAt(`/api/meshes/${body.meshSha256}`)).body as Buffer, bytes)).toBe(0)
    // For a small picture a rough copy of it is enough; a light file is its own.
    const { mesh: rough } = unpackMesh((await fileAt(`/api/meshes/${body.meshSha256}/rough`)).body as Buffer)
    expect(rough.corners.length / 3).toBeLessThan(60_000)
    const { min, max } = meshBounds(rough)
    for (const axis of [0, 1, 2]) expect(Math.abs(max[axis] - min[axis] - 40)).toBeLessThan(1)
    const light = writeStl(box([12, 20, 30]))
    const { body: plain } = await aPart(light)
    const packed = async (form: string) =>
      unpackMesh((await fileAt(`/api/meshes/${plain.meshSha256}/${form}`)).body as Buffer)
    expect(await packed('rough')).toEqual(await packed('packed'))
    expect((await packed('packed')).mesh).toEqual(openMesh(light).mesh)
    expect((await api().get(`/api/meshes/${'0'.repeat(64)}/rough`)).status).toBe(404)
  })

  test('how a part lies is saved with its revision; a small one is taken for inches', async () => {
    const { body: part } = await aPart(writeStl(box([1, 2, 3])))
    expect(part.pose.scale).toBe(25.4)
    const turned = { name: 'Plate', pose: { turn: [0, 0, 1, 0], scale: 1 } }
    expect((await api().put(`/api/parts/${part.id}?revision=1`).send(turned)).body).toMatchObject({
      revision: 2,
      pose: turned.pose,
    })
    expect((await api().put(`/api/parts/${part.id}?revision=1`).send(turned)).status).toBe(409)
    expect(
      (
        await api()
          .put(`/api/parts/${part.id}?revision=2`)
          .send({ ...turned, pose: { turn: [9, 0, 0, 0], scale: 1 } })
      ).status,
    ).toBe(422)
  })
})

describe('pictures of steps', () => {
  const picture = (width: number, height: number) =>
    sharp({ create: { width, height, channels: 3, background: '#6d7f4b' } })
      .jpeg()
      .withExif({
        IFD0: { Make: 'Somebody’s phone' },
        IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '51/1 30/1 0/1' },
      })
      .toBuffer()
  const send = (trialId: string, bytes: Buffer, step = '0:0.1', photoId: string = randomUUID()) =>
    api()
      .put(`/api/trials/${trialId}/photos/${encodeURIComponent(step)}/${photoId}`)
      .set('Content-Type', 'application/octet-stream')
      .send(bytes)

  test('are encoded anew, no larger than we keep them, with nothing of what the file carried', async () => {
    const { trial } = await aTrial()
    const taken = await picture(2600, 1300)
    expect((await sharp(taken).metadata()).exif?.toString('latin1')).toContain('phone')
    const photoId = randomUUID()
    const { status, body } = await send(trial.id, taken, '0:0.1', photoId)
    expect([status, body]).toEqual([201, { id: photoId, step: '0:0.1', widthPx: 1280, heightPx: 640 }])
    const kept = (await api().get(`/api/photos/${photoId}`)).body as Buffer
    const { format, width, height, exif, icc, xmp } = await sharp(kept).metadata()
    expect([format, width, height, exif, icc, xmp]).toEqual([
      'jpeg',
      1280,
      640,
      undefined,
      undefined,
      undefined,
    ])
    expect(kept.toString('latin1')).not.toContain('phone')
    // Sent again after a broken connection: still one.
    await send(trial.id, taken, '0:0.1', photoId)
    expect((await api().get(`/api/trials/${trial.id}`)).body.photos).toEqual([body])
    expect((await api().delete(`/api/photos/${photoId}`)).status).toBe(204)
    expect((await api().get(`/api/photos/${photoId}`)).status).toBe(404)
    expect((await api().get(`/api/trials/${trial.id}`)).body.photos).toEqual([])
    await api().post(`/api/photos/${photoId}/restore`)
    expect((await api().get(`/api/trials/${trial.id}`)).body.photos).toEqual([body])
  })

  test('what is no picture, too many of them, and steps that are not there are refused with a sentence', async () => {
    const { trial } = await aTrial()
    const small = await picture(40, 30)
    for (const bytes of [
      Buffer.from('no picture'),
      Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="99" height="99"/>'),
      small.subarray(0, 200),
    ])
      expect((await send(trial.id, bytes)).body).toMatchObject({
        code: 'FILE_REFUSED',
        title: expect.stringContaining('picture'),
      })
    expect((await send(trial.id, small, '9:9')).body).toMatchObject({ code: 'INVALID', field: 'step' })
    const six = await Promise.all(Array.from({ length: 6 }, () => send(trial.id, small)))
    expect(six.map(({ status }) => status)).toEqual(Array(6).fill(201))
    const seventh = (await Promise.all([send(trial.id, small), send(trial.id, small)]))[1]
    expect(seventh.body).toMatchObject({
      status: 409,
      code: 'TOO_MANY',
      title: expect.stringContaining('up to 6 pictures'),
    })
    expect((await send(trial.id, Buffer.alloc(13 * 1024 * 1024))).status).toBe(413)
  })
})

describe('families', () => {
  const one = async (name: string) =>
    (await api().get('/api/families')).body.families.find((family: { name: string }) => family.name === name)

  test('ours until they are changed, the maker’s afterwards, ours again when taken back', async () => {
    const { name, own, revision, ...ours } = await one('PETG')
    expect({ name, own, revision }).toEqual({ name: 'PETG', own: false, revision: 0 })
    const mine = { ...ours, bedC: [60, 80], source: 'my own bed' }
    expect((await api().put('/api/families/PETG?revision=0').send(mine)).body).toMatchObject({
      own: true,
      revision: 1,
      bedC: [60, 80],
      source: 'my own bed',
    })
    // Another tab that still sees ours is refused, and shown what stands there.
    expect((await api().put('/api/families/PETG?revision=0').send(ours)).body).toMatchObject({
      code: 'STALE',
      current: { bedC: [60, 80] },
    })
    expect(
      (
        await api()
          .put('/api/families/PETG?revision=1')
          .send({ ...mine, bedC: [90, 80] })
      ).body,
    ).toMatchObject({ code: 'INVALID' })
    expect((await api().put('/api/families/WOOD?revision=0').send(ours)).status).toBe(422)
    await api().delete('/api/families/PETG')
    expect(await one('PETG')).toMatchObject({ own: false, bedC: ours.bedC })
  })

  test('a cling is one for both ways round', async () => {
    expect(
      (await api().put('/api/families/cling/PLA/PETG?revision=0').send({ cling: 3, source: '' })).body,
    ).toMatchObject({ cling: 3, own: true })
    expect(
      (await api().put('/api/families/cling/PETG/PLA?revision=1').send({ cling: 0, source: '' })).body,
    ).toMatchObject({ cling: 0, revision: 2 })
    expect(
      (await api().put('/api/families/cling/PETG/PLA?revision=2').send({ cling: 2.7, source: '' })).status,
    ).toBe(422)
    await api().delete('/api/families/cling/PETG/PLA')
    const { clings } = (await api().get('/api/families')).body
    expect(
      clings.find((cling: { a: string; b: string }) => cling.a === 'PLA' && cling.b === 'PETG'),
    ).toMatchObject({ cling: 1, own: false })
    // Eleven families with themselves and each other.
    expect(clings).toHaveLength(66)
  })
})

describe('plans', () => {
  test('a document goes in and comes out whole, evidence included; an incomplete one is refused', async () => {
    const { body: part } = await aPart()
    const evidence = {
      freeAngleDeg: {
        source: 'measured',
        value: 52,
        low: 50,
        high: 58,
        readings: 36,
        trials: [{ id: 'a', name: 'Chalk fan' }],
        sentence: 'Half of prints hold.',
        mismatches: [],
        newest: '2026-11-14',
      },
    }
    const document = { ...DEFAULT_PLAN, name: 'Chalk only', evidence }
    const plan = await put('plans', { partId: part.id, document, figures: null })
    expect(plan).toMatchObject({ partName: 'Plate', figures: null })
    expect(plan.document).toEqual(JSON.parse(JSON.stringify(document)))
    const { decisions: _d, ...without } = document
    expect(
      (
        await api()
          .put(`/api/plans/${randomUUID()}`)
          .send({ partId: part.id, document: without, figures: null })
      ).body,
    ).toMatchObject({ code: 'INVALID', field: 'document.decisions' })
    await api().delete(`/api/parts/${part.id}`)
    expect((await api().get('/api/plans')).body.items.map((one: { id: string }) => one.id)).not.toContain(
      plan.id,
    )
  })
})

describe('a database of an older version', () => {
  test('keeps all it holds when it is brought up to date', async () => {
    const older = await aServer({ upTo: '0000_start' })
    try {
      const [printerId, filamentId, trialId] = [randomUUID(), randomUUID(), randomUUID()]
      await older.db
        .execute(sql`insert into printer (id, name, feed, loads, nozzle_mm, bed_width_mm, bed_depth_mm, height_mm, wall_mm_s, fill_mm_s, stand_mm_s, interface_mm_s, first_layer_mm_s, travel_mm_s, accel_mm_s2, corner_mm_s, retract_s, swap_s, min_layer_s, purge_mm3_s)
        values (${printerId}, 'Old twin', 'nozzles', 2, 0.4, 220, 220, 220, 60, 80, 70, 40, 25, 150, 2000, 8, 0.1, 8, 6, 8)`)
      await older.db.execute(
        sql`insert into filament (id, name, family, colour, density_g_cm3, diameter_mm, price_per_kg, nozzle_c, bed_c) values (${filamentId}, 'Old chalk', 'PLA', '#d8d3c8', 1.24, 1.75, 21, 205, 55)`,
      )
      await older.db.execute(
        sql`insert into spool (filament_id, position, label, grams_left) values (${filamentId}, 0, 'first', 400), (${filamentId}, 1, 'second', 900)`,
      )
      await older.db
        .execute(sql`insert into trial (id, name, coupon, printer_id, part_filament_id, support_filament_id, nozzle_mm, layer_height_mm, line_width_mm, speed_mm_s, fan_percent, damp, printed_on)
        values (${trialId}, 'Old ladder', '{"kind":"gap","gapsMm":[0.1,0.2],"spacingsMm":[0]}', ${printerId}, ${filamentId}, ${filamentId}, 0.4, 0.2, 0.45, 40, 100, false, '2026-10-01')`)
      await older.db.execute(
        sql`insert into step_reading (trial_id, step, release, finish) values (${trialId}, '0:0.1', 2, 3)`,
      )
      const stl = Buffer.from(writeStl(box([12, 20, 33])))
      const sha256 = createHash('sha256').update(stl).digest('hex')
      const partId = randomUUID()
      await older.db.execute(
        sql`insert into mesh (sha256, byte_length, facts, notes) values (${sha256}, ${stl.length}, '{"triangles":12,"sizeMm":[12,20,33]}', '[]')`,
      )
      await older.db.execute(
        sql`insert into mesh_chunk (sha256, position, bytes) values (${sha256}, 0, ${stl})`,
      )
      await older.db.execute(
        sql`insert into part (id, name, file_name, mesh_sha256, pose) values (${partId}, 'Old plate', 'old.stl', ${sha256}, '{"turn":[0,0,0,1],"scale":1}')`,
      )
      await older.migrate()
      const get = async (path: string) => (await request(older.app).get(`/api/${path}`)).body
      const file = (form: string) => makerOf(older).fileAt(`/api/meshes/${sha256}${form}`)
      expect(Buffer.compare((await file('')).body as Buffer, stl)).toBe(0)
      // Read and mended when it is first asked for, and kept.
      for (let asked = 0; asked < 2; asked++)
        expect(unpackMesh((await file('/packed')).body as Buffer).mesh.corners).toHaveLength(36)
      expect(await get(`parts/${partId}`)).toMatchObject({ name: 'Old plate', byteLength: stl.length })
      expect(Printer.parse(await get(`printers/${printerId}`))).toMatchObject({
        name: 'Old twin',
        offsetMm: [18, 0, 0],
        layerMm: null,
        loaded: [],
        startGcode: expect.stringContaining('G28'),
      })
      const { spools } = StoredFilament.parse(await get(`filaments/${filamentId}`))
      expect(spools).toEqual([
        expect.objectContaining({ label: 'first', gramsLeft: 400, lot: '', damp: false }),
        expect.objectContaining({ label: 'second', gramsLeft: 900 }),
      ])
      expect(new Set(spools.map(({ id }) => id)).size).toBe(2)
      const trial = Trial.parse(await get(`trials/${trialId}`))
      expect(trial).toMatchObject({
        coupon: { kind: 'gap', interfaceLayers: 3 },
        readings: [{ step: '0:0.1', release: 2, finish: 3, note: '' }],
        photos: [],
        leftOut: false,
      })
      expect(knownTrial(trial)).toMatchObject({ kind: 'gap', readings: [{ gapMm: 0.1, release: 2 }] })
    } finally {
      await older.close()
    }
  })
})

describe('demo data', () => {
  test('fills an empty database once, whole, and leaves a used one alone', async () => {
    const other = await aServer()
    try {
      await seedDemo(other.db)
      const total = async (shelf: string) => (await request(other.app).get(`/api/${shelf}`)).body.total
      expect(await Promise.all(['printers', 'filaments', 'trials', 'parts', 'plans'].map(total))).toEqual([
        2, 6, 10, 5, 2,
      ])
      const plans = (await request(other.app).get('/api/plans')).body.items
      for (const plan of plans) expect(plan.figures).toMatchObject({ errors: 0 })
      // Made at the same moment: they lie in the same order on every machine.
      expect(plans.map((plan: Plan) => plan.document.name)).toEqual(['Chalk only', 'Moss touch layers'])
      const touched = (await request(other.app).get('/api/plans?order=touched')).body.items
      expect(touched.map((plan: Plan) => plan.document.name)).toEqual(['Chalk only', 'Moss touch layers'])
      await seedDemo(other.db)
      expect(await total('printers')).toBe(2)
      // Opening again runs no migration twice.
      const again = await openDatabase(other.url)
      await again.close()
    } finally {
      await other.close()
    }
    await seedDemo(server.db)
    expect((await api().get('/api/trials').query({ search: 'Chalk fan' })).body.total).toBe(0)
  })
})
