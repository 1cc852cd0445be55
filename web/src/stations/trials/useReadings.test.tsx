/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals'
import { PretendServer, refusal, hooked } from '../../testing/view'
import { act, waitFor } from '@testing-library/react'
import { aTrial } from '../../testing/samples'
import { useReadings } from './useReadings'

const KEY = `tender.pending.${aTrial().id}`
/** Stores what it is sent and gives it back, as the server does. */
const storing = () => new PretendServer(({ path, body }) => ({ body: { step: decodeURIComponent(path.split('/').at(-1)!), ...(body as object) } }))

beforeEach(() => localStorage.clear())
afterEach(() => void jest.useRealTimers())

describe('readings', () => {
  test('a grade is there at once, goes to the server, and is no longer kept here', async () => {
    const server = storing()
    const { result } = hooked(() => useReadings(aTrial()))
    act(() => result.current.read('0:0.2', { release: 4 }))
    expect(result.current.readings).toMatchObject([{ step: '0:0.2', release: 4, finish: null }])
    await waitFor(() => expect(result.current.unsaved).toBe(0))
    expect(server.changes).toEqual([
      { method: 'PUT', path: `/trials/${aTrial().id}/readings/0%3A0.2`, query: '', body: { grade: null, release: 4, finish: null, forceN: null, leftOut: false, note: '' } },
    ])
    expect(localStorage.getItem(KEY)).toBeNull()
  })

  test('what is read step by step adds up: a later key never takes back an earlier one', async () => {
    const server = storing()
    const { result } = hooked(() => useReadings(aTrial({ readings: [{ step: '0:0.2', grade: null, release: 2, finish: 3, forceN: 1.5, leftOut: false, note: 'warm' }] })))
    act(() => result.current.read('0:0.2', { finish: 5 }))
    act(() => result.current.read('0:0.2', { forceN: 2 }))
    await waitFor(() => expect(result.current.unsaved).toBe(0))
    expect(server.changes.at(-1)!.body).toEqual({ grade: null, release: 2, finish: 5, forceN: 2, leftOut: false, note: 'warm' })
  })

  test('without the server nothing is lost: kept in the browser, told, and sent in order once it answers', async () => {
    jest.useFakeTimers()
    const server = storing()
    server.unplugged = true
    const { result } = hooked(() => useReadings(aTrial()))
    await act(async () => {
      result.current.read('0:0.1', { release: 1 })
      result.current.read('0:0.2', { release: 4 })
    })
    await act(async () => jest.advanceTimersByTimeAsync(0))
    expect(result.current.unsaved).toBe(2)
    expect(result.current.problem).toContain('does not answer')
    expect(Object.keys(JSON.parse(localStorage.getItem(KEY)!) as object)).toEqual(['0:0.1', '0:0.2'])
    server.unplugged = false
    await act(async () => jest.advanceTimersByTimeAsync(3000))
    expect(result.current.unsaved).toBe(0)
    expect(result.current.problem).toBeNull()
    expect(server.changes.map(({ path }) => path.slice(-5))).toEqual(['3A0.1', '3A0.2'])
  })

  test('a page opened again sends what the last one could not', async () => {
    localStorage.setItem(KEY, JSON.stringify({ '0:0.3': { grade: null, release: 5, finish: null, forceN: null, leftOut: false, note: '' } }))
    const server = storing()
    const { result } = hooked(() => useReadings(aTrial()))
    expect(result.current.readings).toMatchObject([{ step: '0:0.3', release: 5 }])
    await waitFor(() => expect(result.current.unsaved).toBe(0))
    expect(server.changes).toHaveLength(1)
  })

  test.each(['{not json', '[]', '{"0:0.3": {"release": 9}}'])('what somebody else left in its place (%s) is not taken for readings', (rubbish) => {
    localStorage.setItem(KEY, rubbish)
    storing()
    expect(hooked(() => useReadings(aTrial())).result.current.readings).toEqual([])
  })

  test('a reading that changes while it is under way is sent again as it is now', async () => {
    const waiting: (() => void)[] = []
    const server = new PretendServer(async ({ path, body }) => {
      await new Promise<void>((resolve) => waiting.push(resolve))
      return { body: { step: decodeURIComponent(path.split('/').at(-1)!), ...(body as object) } }
    })
    const { result } = hooked(() => useReadings(aTrial()))
    act(() => result.current.read('0:0.2', { release: 2 }))
    await waitFor(() => expect(waiting).toHaveLength(1))
    act(() => result.current.read('0:0.2', { release: 3 }))
    await act(async () => waiting[0]())
    await waitFor(() => expect(waiting).toHaveLength(2))
    expect(result.current.unsaved).toBe(1)
    await act(async () => waiting[1]())
    await waitFor(() => expect(result.current.unsaved).toBe(0))
    expect(server.changes.map(({ body }) => (body as { release: number }).release)).toEqual([2, 3])
  })

  test('a refusal is told in its own words and not sent again by itself', async () => {
    jest.useFakeTimers()
    const server = new PretendServer(() => refusal(404, 'NOT_FOUND', 'There is no such trial any more.'))
    const { result } = hooked(() => useReadings(aTrial()))
    act(() => result.current.read('0:0.2', { release: 2 }))
    await act(async () => jest.advanceTimersByTimeAsync(10))
    expect(result.current.problem).toBe('There is no such trial any more.')
    await act(async () => jest.advanceTimersByTimeAsync(20_000))
    expect(server.changes).toHaveLength(1)
    expect(result.current.unsaved).toBe(1)
  })
})
