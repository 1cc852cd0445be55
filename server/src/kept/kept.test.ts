import { MOST_KEPT_BYTES } from '@tender/contract'
import { expect, test } from '@jest/globals'
import { serverOfFile } from '../testing/serverOfFile'

const { api } = serverOfFile()
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

test('what is too long, empty, no text or at no real address is refused by a sentence, and nothing is kept', async () => {
  expect((await keep(900, 'x'.repeat(MOST_KEPT_BYTES + 1))).body).toMatchObject({ code: 'TOO_LARGE' })
  expect((await keep(900, 'a\u0000b')).body).toMatchObject({ code: 'INVALID' })
  expect((await keep(900, '')).body).toMatchObject({ code: 'INVALID' })
  expect((await api().put(at(900)).send({ of: 'another kind' })).body).toMatchObject({ code: 'INVALID' })
  expect((await api().get('/api/kept/short')).body).toMatchObject({ code: 'NOT_FOUND' })
  expect((await api().get(at(900))).status).toBe(204)
})
