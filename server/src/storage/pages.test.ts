import { randomUUID } from 'node:crypto'
import { expect, test } from '@jest/globals'
import { UPRIGHT } from '@tender/core/mesh'
import { DEFAULT_PLAN } from '@tender/core/decide'
import { aFilament } from '../testing/bench'
import { serverOfFile } from '../testing/serverOfFile'

const { api, put, bringIn, aTrial } = serverOfFile()

/** Every row of a list, page by page. */
async function walked(path: string, query: object, limit = 2) {
  const rows: Record<string, never>[] = []
  for (let offset = 0; ; offset += limit) {
    const { body } = await api()
      .get(`/api/${path}`)
      .query({ ...query, limit, offset })
      .expect(200)
    rows.push(...body.items)
    if (body.items.length === 0) return { rows, total: body.total as number }
  }
}

test('pages in any order hold every row once, equal ones too; what nobody weighed stands last, either way round', async () => {
  const mark = randomUUID().slice(0, 6)
  const spools = (grams: number) => [{ id: randomUUID(), label: 'one', gramsLeft: grams }]
  const made = [
    aFilament({ name: `${mark} c`, family: 'PETG', spools: spools(300), pricePerKg: 20 }),
    aFilament({ name: `${mark} a`, family: 'PLA', spools: [], pricePerKg: 20 }),
    aFilament({ name: `${mark} b`, family: 'PLA', spools: spools(100), pricePerKg: 20 }),
    aFilament({ name: `${mark} d`, family: 'ABS', spools: spools(200), pricePerKg: 20 }),
    aFilament({ name: `${mark} e`, family: 'PLA', spools: [], pricePerKg: 20 }),
  ]
  for (const one of made) await put('filaments', one)
  const inOrder = async (order: string) => {
    const { rows, total } = await walked('filaments', { search: mark, order })
    expect(total).toBe(5)
    return rows.map(({ name }) => (name as string).slice(-1)).join('')
  }
  expect(await inOrder('')).toBe('abcde')
  expect(await inOrder('-name')).toBe('edcba')
  expect(await inOrder('family')).toBe('dcabe')
  expect(await inOrder('left')).toBe('bdcae')
  expect(await inOrder('-left')).toBe('cdbae')
  expect(await inOrder('price')).toBe('abcde')
  const refused = await api().get('/api/filaments?order=colour').expect(422)
  expect(refused.body).toMatchObject({ code: 'INVALID', field: 'order' })
  expect(refused.body.title).toContain('only name, family, left, price, heat')
  expect((await api().get('/api/filaments?order=name;drop').expect(422)).body.code).toBe('INVALID')
})

test('lists are narrowed to a part, to what was read, or not at all where that means nothing', async () => {
  const [one, other] = [(await bringIn()).body, (await bringIn()).body]
  const plan = (partId: string, name: string, massG: number | null) =>
    put('plans', {
      partId,
      document: { ...DEFAULT_PLAN, name, pose: UPRIGHT },
      figures:
        massG === null
          ? null
          : { massG, wasteG: 0, cost: 1, timeS: 1, swapTimeS: 0, swaps: 0, pTender: null, errors: 0 },
    })
  await plan(one.id, 'heavy', 30)
  await plan(one.id, 'not worked out', null)
  await plan(one.id, 'light', 9)
  await plan(other.id, 'of another', 1)
  const mine = await walked('plans', { part: one.id, order: 'mass' })
  expect(mine.rows.map(({ document }) => (document as { name: string }).name)).toEqual([
    'light',
    'heavy',
    'not worked out',
  ])
  expect(mine.total).toBe(3)
  expect((await api().get(`/api/plans?search=light, ${one.name}`)).body.total).toBeGreaterThan(0)

  const { trial } = await aTrial()
  const found = async (read: string) =>
    (await walked('trials', { read }, 50)).rows.some(({ id }) => (id as string) === trial.id)
  expect([await found('yes'), await found('no')]).toEqual([false, true])
  await api()
    .patch(`/api/trials/${trial.id}/readings/${encodeURIComponent('0:0.2')}`)
    .send({ base: 0, by: 'bench', changes: { release: 2 } })
    .expect(200)
  expect([await found('yes'), await found('no')]).toEqual([true, false])

  expect((await api().get(`/api/printers?part=${one.id}`)).body).toMatchObject({
    code: 'INVALID',
    field: 'part',
  })
})
