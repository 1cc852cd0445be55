import { createHash } from 'node:crypto'
import { expect, jest, test } from '@jest/globals'
import { stringify } from 'devalue'
import { keepAnswer, keyOf, lastAnswer } from './keptAnswers'

const PLAN = '0b9c1c1e-8f5e-4a3a-9a51-3f1d2d6f7a10'
const QUESTION = 'plan of the louvre plate, gap 0.23 mm²'

test('a question is kept under what the server works out for it ahead', () => {
  expect(keyOf(QUESTION)).toBe(createHash('sha256').update(`none ${QUESTION}`).digest('hex'))
})

test('the last answer about something is the one to a question, or none: older, garbled, about something else', async () => {
  const answer = { id: 'kept', sections: { 0: new Float64Array([1, 2]) } }
  const last = { about: PLAN, key: keyOf(QUESTION), answer: stringify(answer) }
  expect(lastAnswer([last], PLAN, QUESTION)).toEqual(answer)
  expect(lastAnswer([last], PLAN, `${QUESTION} less`)).toBeNull()
  expect(lastAnswer([{ ...last, answer: '[[' }], PLAN, QUESTION)).toBeNull()
  expect(lastAnswer([last], 'learnt', QUESTION)).toBeNull()
  // Where it came from it need not be sent.
  const sent = jest.fn(async (..._: unknown[]) => ({ ok: true }))
  globalThis.fetch = sent as unknown as typeof fetch
  await keepAnswer(last.key, answer, PLAN)
  expect(sent).not.toHaveBeenCalled()
  await keepAnswer(keyOf('another'), answer, PLAN)
  expect(sent.mock.calls[0][0]).toContain(`${keyOf('another')}?about=${PLAN}`)
})
