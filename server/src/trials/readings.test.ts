import { expect, test } from '@jest/globals'
import type { ReadingChange, StepReading } from '@tender/contract'
import { serverOfFile } from '../testing/serverOfFile'

const { api, aTrial } = serverOfFile()

const step = '0:0.2'
const change = (trialId: string, body: ReadingChange, at = step) =>
  api()
    .patch(`/api/trials/${trialId}/readings/${encodeURIComponent(at)}`)
    .send(body)
const readingsOf = async (trialId: string): Promise<StepReading[]> =>
  (await api().get(`/api/trials/${trialId}`)).body.readings

test('what two devices change of one reading goes together; what both change is refused to the second, with what stands there', async () => {
  const { trial } = await aTrial()
  expect(
    (await change(trial.id, { base: 0, by: 'bench', changes: { release: 2, finish: 3 } })).body,
  ).toMatchObject({
    revision: 1,
    release: 2,
    finish: 3,
  })
  // The phone was offline: it saw nothing of this, and grades nothing that the bench did.
  expect((await change(trial.id, { base: 0, by: 'phone', changes: { forceN: 4.2 } })).body).toMatchObject({
    revision: 2,
    release: 2,
    forceN: 4.2,
  })
  const late = await change(trial.id, { base: 0, by: 'phone', changes: { release: 5, note: 'stuck' } })
  expect(late.body).toMatchObject({
    status: 409,
    code: 'STALE',
    current: { release: 2, forceN: 4.2, revision: 2 },
  })
  expect((await readingsOf(trial.id))[0]).toMatchObject({ release: 2, note: '' })
  // Having seen it, the phone may.
  expect((await change(trial.id, { base: 2, by: 'phone', changes: { release: 5 } })).body).toMatchObject({
    revision: 3,
    release: 5,
  })
  // One device’s own changes follow each other, and one sent twice is one.
  for (const finish of [1, 2] as const) await change(trial.id, { base: 3, by: 'phone', changes: { finish } })
  await change(trial.id, { base: 3, by: 'phone', changes: { finish: 2 } })
  expect((await readingsOf(trial.id))[0]).toMatchObject({ revision: 5, finish: 2, release: 5, forceN: 4.2 })
})

test('of 200 changes by 20 writers of one step, none that was acknowledged is lost', async () => {
  const { trial } = await aTrial()
  const acknowledged: { value: string; revision: number }[] = []
  let refused = 0
  await Promise.all(
    Array.from({ length: 20 }, async (_, writer) => {
      let base = 0
      for (let i = 0; i < 10; i++) {
        const value = `${writer}.${i}`
        const { status, body } = await change(trial.id, {
          base,
          by: `writer ${writer}`,
          changes: { note: value },
        })
        if (status === 200) acknowledged.push({ value, revision: (base = body.revision) })
        else {
          refused++
          base = body.current.revision
        }
      }
    }),
  )
  expect(acknowledged.length + refused).toBe(200)
  expect(acknowledged.length).toBeGreaterThan(9)
  // Each acknowledged change was a revision of its own: whoever came next had seen it, or was told.
  expect(new Set(acknowledged.map(({ revision }) => revision)).size).toBe(acknowledged.length)
  const last = acknowledged.toSorted((a, b) => a.revision - b.revision).at(-1)!
  expect((await readingsOf(trial.id))[0]).toMatchObject({ note: last.value, revision: last.revision })
  expect(last.revision).toBe(acknowledged.length)
})

test('a whole reading is written over the revision it names, and over nothing else', async () => {
  const { trial } = await aTrial()
  const whole = (revision: number | null, reading: object) =>
    api()
      .put(
        `/api/trials/${trial.id}/readings/${encodeURIComponent(step)}${revision === null ? '' : `?revision=${revision}`}`,
      )
      .send({ grade: null, release: null, finish: null, forceN: null, leftOut: false, note: '', ...reading })
  expect((await whole(null, { release: 2 })).body).toMatchObject({ revision: 1, release: 2 })
  expect((await whole(null, { release: 2 })).body).toMatchObject({ revision: 1 })
  expect((await whole(null, { release: 3 })).body).toMatchObject({ code: 'STALE', current: { release: 2 } })
  expect((await whole(1, { release: 3 })).body).toMatchObject({ revision: 2, release: 3 })
  expect((await whole(1, { release: 4 })).status).toBe(409)
})

test('a step that was taken from its coupon, a removed trial and a change of nothing are refused in words', async () => {
  const { input, trial } = await aTrial()
  await change(trial.id, { base: 0, by: 'bench', changes: { release: 1 } }, '0:0.1')
  const narrower = { ...input, coupon: { kind: 'gap', gapsMm: [0.2, 0.3], spacingsMm: [0] } }
  await api().put(`/api/trials/${trial.id}?revision=1`).send(narrower).expect(200)
  const gone = await change(trial.id, { base: 1, by: 'bench', changes: { release: 2 } }, '0:0.1')
  expect(gone.body).toMatchObject({
    code: 'INVALID',
    field: 'step',
    title: expect.stringContaining('no step "0:0.1"'),
  })
  expect((await change(trial.id, { base: 0, by: 'bench', changes: {} })).body.title).toContain('at least one')
  expect(
    (await change(trial.id, { base: 0, by: 'bench', changes: { release: 6 as never } })).body,
  ).toMatchObject({ field: 'changes.release' })
  await api().delete(`/api/trials/${trial.id}`)
  expect((await change(trial.id, { base: 0, by: 'bench', changes: { release: 2 } })).body).toMatchObject({
    code: 'GONE',
  })
})
