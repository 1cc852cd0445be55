import { expect, test } from '@jest/globals'
import { serverOfFile } from '../testing/serverOfFile'

const { api } = serverOfFile()

test('the currency is chosen once for all; of two that choose at once one is told, and what is none is refused', async () => {
  expect((await api().get('/api/workshop')).body).toEqual({ currency: null, revision: 0 })
  const choose = (currency: unknown, revision?: number) =>
    api()
      .put(`/api/workshop${revision === undefined ? '' : `?revision=${revision}`}`)
      .send({ currency })
  const both = await Promise.all([choose('EUR'), choose('USD')])
  expect(both.map(({ status }) => status).sort()).toEqual([200, 409])
  const [won, lost] = both.toSorted((a, b) => a.status - b.status)
  expect(lost.body).toMatchObject({ code: 'STALE', current: won.body })
  expect((await choose('SEK', 1)).body).toEqual({ currency: 'SEK', revision: 2 })
  expect((await choose('GBP', 1)).body).toMatchObject({ code: 'STALE', current: { currency: 'SEK' } })
  expect((await choose('shells', 2)).body).toMatchObject({ code: 'INVALID', field: 'currency' })
  expect((await choose(null, 2)).body).toEqual({ currency: null, revision: 3 })
})
