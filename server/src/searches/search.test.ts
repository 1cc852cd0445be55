import { spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import type { PoseSearch } from '@tender/contract'
import { writeStl } from '@tender/core/mesh'
import { DEFAULT_PLAN } from '@tender/core/decide'
import { boxes } from '@tender/core/testing'
import request from 'supertest'
import { WORKER } from '../places'
import { aServer } from '../testing/aServer'

let server: Awaited<ReturnType<typeof aServer>>
beforeAll(async () => {
  server = await aServer()
})
afterAll(() => server.close())

/** A plate on a post beside its middle: on its back it needs nothing. */
const table = boxes([
  { size: [6, 6, 14], at: [4, 4, 0] },
  { size: [40, 30, 3], at: [0, 0, 14] },
])

async function aPart(): Promise<string> {
  const id = randomUUID()
  await request(server.app)
    .put(`/api/parts/${id}/file`)
    .query({ name: 'Table', fileName: 'table.stl' })
    .send(Buffer.from(writeStl(table)))
    .expect(201)
  return id
}

function aWorker(): { child: ReturnType<typeof spawn>; atWork: Promise<void> } {
  const child = spawn(process.execPath, WORKER, {
    env: { ...process.env, DATABASE_URL: server.url, TENDER_FOLLOWS: 'stdin', NODE_OPTIONS: '' },
    stdio: ['pipe', 'pipe', 'inherit'],
  })
  const atWork = new Promise<void>((resolve) =>
    child.stdout!.on('data', (text) => String(text).startsWith('at ') && resolve()),
  )
  return { child, atWork }
}

async function ended(id: string, withinMs = 60_000): Promise<PoseSearch> {
  const until = Date.now() + withinMs
  for (;;) {
    const { body } = await request(server.app).get(`/api/searches/${id}`).expect(200)
    if (body.state !== 'working' || Date.now() > until) return body
    await new Promise((resolve) => setTimeout(resolve, 150))
  }
}

test('a search outlives its worker: killed in the middle of a batch, another one ends it, and nothing is judged twice', async () => {
  const partId = await aPart()
  const { body } = await request(server.app)
    .post(`/api/parts/${partId}/searches`)
    .send({ document: DEFAULT_PLAN })
    .expect(202)
  expect(body).toMatchObject({ state: 'working', poses: [] })
  const first = aWorker()
  await first.atWork
  first.child.kill('SIGKILL')
  // Within seconds, not when the queue would give up on it.
  const second = aWorker()
  try {
    const done = await ended(body.id)
    expect(done.state).toBe('done')
    expect(done.progress).toBe(1)
    expect(done.poses.length).toBeGreaterThan(2)
    // Turned over it lies on its plate: nothing to hold, and it stands.
    const best = done.poses[0]
    expect(best.standG).toBeLessThan(0.01)
    expect(best.judgement.standing.verdict).toBe('stands')
    expect(best.judgement.supportMm3).toBe(0)
    const drawn = done.poses.find(({ judgement }) => Math.abs(judgement.turn[3]) > 0.999)!
    expect(drawn.standG).toBeGreaterThan(1)
    const newest = await request(server.app).get(`/api/parts/${partId}/searches/newest`).expect(200)
    expect(newest.body).toEqual(done)
    // Every batch was written once, and each of its poses has one judgement.
    const { rows } = await server.pool.query(
      'select work, results from job_batch where job_id = $1 and round between 1 and 5',
      [body.id],
    )
    expect(rows.length).toBeGreaterThan(4)
    for (const { work, results } of rows) expect(results.judged).toHaveLength(work.length)
  } finally {
    second.child.kill('SIGKILL')
  }
}, 120_000)

test('a search is stopped, listened to, and refused in a sentence', async () => {
  const partId = await aPart()
  const none = await request(server.app).get(`/api/parts/${partId}/searches/newest`).expect(200)
  expect(none.body).toBeNull()
  const { body } = await request(server.app)
    .post(`/api/parts/${partId}/searches`)
    .send({ document: DEFAULT_PLAN })
    .expect(202)
  await request(server.app).delete(`/api/searches/${body.id}`).expect(204)
  const heard = await request(server.app).get(`/api/searches/${body.id}/events`).expect(200)
  expect(JSON.parse(heard.text.replace('data: ', ''))).toMatchObject({ id: body.id, state: 'stopped' })
  await request(server.app).get(`/api/searches/${randomUUID()}`).expect(404)
  const refused = await request(server.app)
    .post(`/api/parts/${partId}/searches`)
    .send({ document: { ...DEFAULT_PLAN, decisions: { ...DEFAULT_PLAN.decisions, freeAngleDeg: 120 } } })
    .expect(422)
  expect(refused.body.title).toContain('89')
})

test('of three searches of one part started at once, one runs', async () => {
  const partId = await aPart()
  const start = () =>
    request(server.app).post(`/api/parts/${partId}/searches`).send({ document: DEFAULT_PLAN }).expect(202)
  const started = await Promise.all([start(), start(), start()])
  const states = await Promise.all(
    started.map(async ({ body }) => (await request(server.app).get(`/api/searches/${body.id}`)).body.state),
  )
  expect(states.toSorted()).toEqual(['stopped', 'stopped', 'working'])
})

test('searches of the version before are there as they were, and what was undone goes on', async () => {
  const older = await aServer({ upTo: '0005_jobs_and_reading_revisions' })
  try {
    const [partId, done, working] = [randomUUID(), randomUUID(), randomUUID()]
    const run = (text: string, values: unknown[]) => older.pool.query(text, values)
    await run(`insert into mesh (sha256, byte_length, facts, notes) values ('a', 1, '{}', '[]')`, [])
    await run(
      `insert into part (id, name, file_name, mesh_sha256, pose) values ($1, 'Old', 'old.stl', 'a', '{}')`,
      [partId],
    )
    await run(
      `insert into pose_search (id, part_id, state, round, input) values ($1, $3, 'done', 5, $4), ($2, $3, 'working', 1, $4)`,
      [done, working, partId, { document: DEFAULT_PLAN }],
    )
    await run(
      `insert into pose_batch (search_id, round, position, turns, results) values ($1, 1, 0, '[[0,0,0,1]]', '{"judged":[]}'), ($2, 1, 0, '[[0,0,0,1]]', null)`,
      [done, working],
    )
    await older.migrate()
    const state = async (id: string) =>
      (await request(older.app).get(`/api/searches/${id}`).expect(200)).body.state
    expect([await state(done), await state(working)]).toEqual(['done', 'working'])
    expect(await older.jobs.takeBack()).toBe(1)
    expect(await older.jobs.takeBack()).toBe(0)
  } finally {
    await older.close()
  }
})
