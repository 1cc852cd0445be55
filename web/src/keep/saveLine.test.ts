/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals'
import { ApiError } from '../api/client'
import { SaveLine, type Told } from './saveLine'

type Thing = { readonly text: string; readonly revision: number }
type Send = { readonly value: string; readonly revision: number; answer(): void; refuse(error: Error): void }

beforeEach(() => void jest.useFakeTimers())
afterEach(() => void jest.useRealTimers())

function line(isChange?: (current: Thing) => boolean) {
  const sent: Send[] = []
  const told: Told<Thing>[] = []
  const made = new SaveLine<string, Thing>(
    1,
    (value, revision) =>
      new Promise((resolve, reject) =>
        sent.push({
          value,
          revision,
          answer: () => resolve({ text: value, revision: revision + 1 }),
          refuse: reject,
        }),
      ),
    (current) => current as Thing,
    (what) => told.push(what),
    isChange,
  )
  return { made, sent, told }
}
const pass = (ms: number) => jest.advanceTimersByTimeAsync(ms)
const refused = (code: string, current?: unknown) =>
  new ApiError({ type: 'about:blank', status: 409, code, title: code, current } as never)

describe('saving in line', () => {
  test('only the last of quick changes goes out, once it rests', async () => {
    const { made, sent } = line()
    for (const text of ['a', 'ab', 'abc']) {
      made.want(text, text, 500)
      await pass(200)
    }
    expect(sent).toHaveLength(0)
    await pass(400)
    expect(sent.map(({ value }) => value)).toEqual(['abc'])
  })

  test('never two at once: what is wanted meanwhile follows from the revision that the first gave', async () => {
    const { made, sent, told } = line()
    made.want('first', 'first', 0)
    await pass(10)
    made.want('second', 'second', 0)
    made.want('third', 'third', 0)
    await pass(5000)
    expect(sent).toHaveLength(1)
    sent[0].answer()
    await pass(10)
    expect(sent.slice(1).map(({ value, revision }) => [value, revision])).toEqual([['third', 2]])
    sent[1].answer()
    await pass(10)
    expect(told.map(({ savedText }) => savedText)).toEqual(['first', 'third'])
  })

  test('a silent server is asked again with the newest; another refusal is told and the next change tries anew', async () => {
    const { made, sent, told } = line()
    made.want('a', 'a', 0)
    await pass(10)
    made.want('b', 'b', 60_000)
    sent[0].refuse(refused('OFFLINE'))
    await pass(4000)
    expect(sent.at(-1)).toMatchObject({ value: 'b', revision: 1 })
    sent[1].refuse(refused('FIELDS'))
    await pass(60_000)
    expect(sent).toHaveLength(2)
    expect(told.at(-1)?.problem).toBe('FIELDS')
    made.want('c', 'c', 0)
    await pass(10)
    expect(sent.at(-1)?.value).toBe('c')
  })

  test('over somebody else’s change nothing is saved until it is taken, then from its revision', async () => {
    const { made, sent, told } = line()
    made.want('mine', 'mine', 0)
    await pass(10)
    const theirs = { text: 'theirs', revision: 7 }
    sent[0].refuse(refused('STALE', theirs))
    await pass(10)
    expect(told.at(-1)?.conflict).toBe(theirs)
    made.want('still mine', 'x', 0)
    made.leave('still mine', 'x')
    await pass(10_000)
    expect(sent).toHaveLength(1)
    made.goOnFrom(theirs)
    made.want('after', 'after', 0)
    await pass(10)
    expect(sent.at(-1)).toMatchObject({ value: 'after', revision: 7 })
  })

  test('over what nobody changed it goes on by itself, from the revision that stands there', async () => {
    const { made, sent, told } = line(({ text }) => text !== 'as it was')
    made.want('mine', 'mine', 0)
    await pass(10)
    sent[0].refuse(refused('STALE', { text: 'as it was', revision: 4 }))
    await pass(10)
    expect(sent.slice(1).map(({ value, revision }) => [value, revision])).toEqual([['mine', 4]])
    sent[1].refuse(refused('STALE', { text: 'theirs', revision: 5 }))
    await pass(10)
    expect(told.at(-1)?.conflict).toMatchObject({ text: 'theirs' })
  })
})
