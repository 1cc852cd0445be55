import { createHash } from 'node:crypto'
import { asOfToday, keptQuestions, leanTakeOff, MOST_KEPT_BYTES, Plan, type LastKept } from '@tender/contract'
import { expect, test } from '@jest/globals'
import { newDocument, NOTHING_LEARNT, type PlanDocument } from '@tender/core/decide'
import { writeStl } from '@tender/core/mesh'
import type { KeptOutcome } from '@tender/core/plan'
import { box, table } from '@tender/core/testing'
import { parse } from 'devalue'
import { serverOfFile } from '../testing/serverOfFile'
import { keepOpenings } from './openings'

const { server, api, bringIn, put } = serverOfFile()
const at = (n: number) => `/api/kept/${n.toString(16).padStart(64, '0')}`
const keep = (n: number, answer: string) => api().put(at(n)).type('text/plain').send(answer)

test('an answer is given to the next who asks; of many, those stay that were asked for last', async () => {
  expect((await api().get(at(1))).status).toBe(204)
  expect((await keep(1, '{"held":"1108 mm²"}')).status).toBe(204)
  // Whoever comes second worked out the same.
  expect((await keep(1, 'later')).status).toBe(204)
  expect((await api().get(at(1))).text).toBe('{"held":"1108 mm²"}')
  for (let n = 2; n <= 201; n++) {
    await keep(n, `answer ${n}`)
    if (n === 100) await api().get(at(1))
  }
  const found = await Promise.all([1, 2, 3, 201].map(async (n) => (await api().get(at(n))).status))
  expect(found).toEqual([200, 204, 200, 200])
})

test('of what is kept about a plan the one last kept or asked for comes along unasked, as long as it is kept', async () => {
  const [plan, other] = ['0b9c1c1e-8f5e-4a3a-9a51-3f1d2d6f7a10', '0b9c1c1e-8f5e-4a3a-9a51-3f1d2d6f7a11']
  const about = (n: number, what: string) => `${at(n)}?about=${what}`
  const last = async () => (await api().get(`/api/kept/last?about=learnt&about=${plan}&about=${other}`)).body
  expect(await last()).toEqual([])
  for (const n of [301, 302]) await api().put(about(n, plan)).type('text/plain').send(`plan ${n}`)
  await api().get(about(302, other))
  await api().get(about(301, plan))
  // What nobody keeps is no last one.
  expect((await api().get(about(399, 'learnt'))).status).toBe(204)
  const found = (await last()).map((one: LastKept[number]) => [one.about, one.key, one.answer])
  const key = (n: number) => at(n).split('/').at(-1)
  expect(found.sort()).toEqual([
    [plan, key(301), 'plan 301'],
    [other, key(302), 'plan 302'],
  ])
  for (let n = 400; n <= 600; n++) await keep(n, `answer ${n}`)
  expect(await last()).toEqual([])
  expect((await api().get(about(301, 'anything'))).body).toMatchObject({ code: 'INVALID' })
  expect((await api().get('/api/kept/last?about=anything')).body).toMatchObject({ code: 'INVALID' })
})

test('what is too long, empty, no text or at no real address is refused by a sentence, and nothing is kept', async () => {
  expect((await keep(900, 'x'.repeat(MOST_KEPT_BYTES + 1))).body).toMatchObject({ code: 'TOO_LARGE' })
  expect((await keep(900, 'a\u0000b')).body).toMatchObject({ code: 'INVALID' })
  expect((await keep(900, '')).body).toMatchObject({ code: 'INVALID' })
  expect((await api().put(at(900)).send({ of: 'another kind' })).body).toMatchObject({ code: 'INVALID' })
  expect((await api().get('/api/kept/short')).body).toMatchObject({ code: 'NOT_FOUND' })
  expect((await api().get(at(900))).status).toBe(204)
})

test('plans that nobody worked out are worked out once, under what a browser asks; one that cannot be planned stops none of the others', async () => {
  const planOf = async (bytes: Uint8Array, name: string) => {
    const { body: part } = await bringIn(bytes)
    const plan = await put('plans', { partId: part.id, document: newDocument({ name }), figures: null })
    return { part, plan }
  }
  const { part, plan } = await planOf(writeStl(table), 'Table')
  // Newer, and thinner than half a layer.
  await planOf(writeStl(box([10, 10, 0.05])), 'Foil')
  const done: string[] = []
  await keepOpenings(server.db, 'v1', (name) => done.push(name))
  await keepOpenings(server.db, 'v1', (name) => done.push(name))
  expect(done).toEqual(['Table'])

  const kept = async (version: string, question: string) => {
    const key = createHash('sha256').update(`${version} ${question}`).digest('hex')
    const { status, text } = await api().get(`/api/kept/${key}`)
    return status === 200 ? parse(text) : null
  }
  expect(await kept('v1', keptQuestions.learnt([].map(leanTakeOff)))).toEqual(NOTHING_LEARNT)
  const { body } = await api().get(`/api/plans/${plan.id}`)
  const document = asOfToday(Plan.parse(body).document as PlanDocument, [], [], NOTHING_LEARNT)
  const asked = keptQuestions.plan(part.meshSha256, { ...document, name: 'A name changes no number' })
  const { summary, sections }: KeptOutcome = await kept('v1', asked)
  expect(summary.contacts[0].areaMm2).toBeGreaterThan(100)
  expect(Object.keys(sections)).toEqual(['0', '90'])
  expect(await kept('v2', asked)).toBeNull()
  const last: LastKept = (await api().get(`/api/kept/last?about=learnt&about=${plan.id}`)).body
  expect(last.map(({ about }) => about).sort()).toEqual([plan.id, 'learnt'].sort())
  expect(parse(last.find(({ about }) => about === plan.id)!.answer)).toMatchObject({ summary })
})
