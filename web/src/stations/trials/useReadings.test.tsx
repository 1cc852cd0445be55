/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals'
import type { StepReading } from '@tender/contract'
import { act, waitFor } from '@testing-library/react'
import { keptOf } from '../../keep/outbox'
import { aTrial } from '../../testing/samples'
import { hooked, PretendServer, refusal } from '../../testing/view'
import { useReadings } from './useReadings'

const TOPIC = `reading.${aTrial().id}`
const NOTHING = { grade: null, release: null, finish: null, forceN: null, leftOut: false, note: '' }
const aReading = (changes: Partial<StepReading> = {}): StepReading => ({
  step: '0:0.2',
  revision: 1,
  ...NOTHING,
  ...changes,
})

const stepOf = (path: string) => decodeURIComponent(path.split('/').at(-1)!)
/** Takes every change and answers with the reading it makes. */
const storing = () =>
  new PretendServer(({ path, body }) => {
    const { base, changes } = body as { base: number; changes: object }
    return { body: aReading({ step: stepOf(path), revision: base + 1, ...changes }) }
  })
/** An entry as another tab left it, some minutes ago or just now. */
const leftBy = (tab: string, changes: object, beatAgoMs: number) => {
  const entry = { id: `${tab}-1`, tab, at: 1, target: '0:0.3', base: 0, changes, refused: null }
  localStorage.setItem(`tender.kept.${TOPIC}.${entry.id}`, JSON.stringify(entry))
  localStorage.setItem(`tender.tab.${tab}`, String(Date.now() - beatAgoMs))
}

beforeEach(() => localStorage.clear())
afterEach(() => void jest.useRealTimers())

describe('readings', () => {
  test('a grade is there at once, goes to the server as the change it is, and is no longer kept here', async () => {
    const server = storing()
    const trial = aTrial({ readings: [aReading({ revision: 3, finish: 3, note: 'warm' })] })
    const { result } = hooked(() => useReadings(trial))
    act(() => result.current.read('0:0.2', { release: 4 }))
    expect(result.current.readings).toMatchObject([{ step: '0:0.2', release: 4, finish: 3, note: 'warm' }])
    await waitFor(() => expect(result.current.unsaved).toBe(0))
    expect(server.changes).toEqual([
      {
        method: 'PATCH',
        path: `/trials/${trial.id}/readings/0%3A0.2`,
        query: '',
        body: { base: 3, by: expect.any(String), changes: { release: 4 } },
      },
    ])
    expect(keptOf(TOPIC)).toEqual([])
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
    await act(async () => result.current.read('0:0.2', { finish: 2 }))
    expect(result.current.unsaved).toBe(2)
    expect(result.current.problem).toContain('does not answer')
    expect(keptOf(TOPIC).map(({ target, changes }) => [target, changes])).toEqual([
      ['0:0.1', { release: 1 }],
      ['0:0.2', { release: 4, finish: 2 }],
    ])
    server.unplugged = false
    await act(async () => jest.advanceTimersByTimeAsync(3000))
    expect(result.current.unsaved).toBe(0)
    expect(result.current.problem).toBeNull()
    expect(server.changes.map(({ path }) => stepOf(path))).toEqual(['0:0.1', '0:0.2'])
  })

  test('what a closed tab could not send is sent by the next; what an open one keeps stays its own', async () => {
    const server = storing()
    leftBy('closed', { release: 5 }, 600_000)
    leftBy('open', { release: 1 }, 1_000)
    const { result } = hooked(() => useReadings(aTrial()))
    expect(result.current.readings).toMatchObject([{ step: '0:0.3', release: 5 }])
    await waitFor(() => expect(result.current.unsaved).toBe(0))
    expect(server.changes.map(({ body }) => (body as { changes: object }).changes)).toEqual([{ release: 5 }])
    expect(localStorage.getItem(`tender.kept.${TOPIC}.open-1`)).toContain('"release":1')
  })

  test('what the version before kept is sent too, as changes', async () => {
    const old = { '0:0.3': { ...NOTHING, release: 5, note: 'stuck' } }
    localStorage.setItem(`tender.pending.${aTrial().id}`, JSON.stringify(old))
    const server = storing()
    const { result } = hooked(() => useReadings(aTrial()))
    await waitFor(() => expect(result.current.unsaved).toBe(0))
    expect(server.changes).toMatchObject([{ body: { base: 0, changes: { release: 5, note: 'stuck' } } }])
    expect(localStorage.getItem(`tender.pending.${aTrial().id}`)).toBeNull()
  })

  test.each(['{not json', '[]', '{"id":"other"}'])(
    'what somebody else left in its place (%s) is not taken for readings',
    (rubbish) => {
      localStorage.setItem(`tender.kept.${TOPIC}.x`, rubbish)
      localStorage.setItem(`tender.pending.${aTrial().id}`, rubbish)
      storing()
      expect(hooked(() => useReadings(aTrial())).result.current.readings).toEqual([])
    },
  )

  test('a step that is read again while its reading is under way is sent again as it is now', async () => {
    const waiting: (() => void)[] = []
    const server = new PretendServer(async ({ path }) => {
      await new Promise<void>((resolve) => waiting.push(resolve))
      return { body: aReading({ step: stepOf(path) }) }
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
    expect(server.changes.map(({ body }) => (body as { changes: object }).changes)).toEqual([
      { release: 2 },
      { release: 3 },
    ])
  })

  test('a refused reading is set aside and told, the others go on; the maker puts it over what stands there, or lets it go', async () => {
    const gone = refusal(422, 'INVALID', 'The coupon of this trial has no step "0:0.1" any more.', {
      field: 'step',
    })
    const clash = refusal(409, 'STALE', 'The step was read differently.', {
      current: aReading({ revision: 7, release: 1 }),
    })
    let seen = false
    const server = new PretendServer(({ path, body }) => {
      const step = stepOf(path)
      if (step === '0:0.1') return gone
      const { base, changes } = body as { base: number; changes: object }
      if (step === '0:0.2' && base < 7) {
        seen = true
        return clash
      }
      return { body: aReading({ step, revision: base + 1, ...changes }) }
    })
    const trial = aTrial({ readings: [aReading({ revision: 1 })] })
    const { result, rerender, client } = hooked(() =>
      useReadings(seen ? { ...trial, readings: [aReading({ revision: 7, release: 1 })] } : trial),
    )
    await act(async () => {
      result.current.read('0:0.1', { release: 2 })
      result.current.read('0:0.2', { release: 5 })
      result.current.read('0:0.3', { release: 3 })
    })
    await waitFor(() => expect(result.current.unsaved).toBe(0))
    expect(result.current.aside).toMatchObject([
      { key: '0:0.1', changes: { release: 2 }, reason: expect.stringContaining('no step') },
      { key: '0:0.2', changes: { release: 5 }, reason: 'The step was read differently.' },
    ])
    expect(server.changes.map(({ path }) => stepOf(path))).toEqual(['0:0.1', '0:0.2', '0:0.3'])
    expect(client).toBeDefined()
    rerender()
    const [lost, mine] = result.current.aside
    await act(async () => result.current.putMine(mine.id))
    await waitFor(() =>
      expect(server.changes.at(-1)!.body).toMatchObject({ base: 7, changes: { release: 5 } }),
    )
    await act(async () => result.current.drop(lost.id))
    await waitFor(() => expect(result.current.aside).toEqual([]))
    expect(keptOf(TOPIC)).toEqual([])
  })

  test('an answer that nobody foresaw is asked for three times, then set aside so that the others go on', async () => {
    jest.useFakeTimers()
    const server = new PretendServer(({ path }) =>
      stepOf(path) === '0:0.1'
        ? refusal(500, 'INTERNAL', 'Something went wrong on the server.')
        : { body: aReading({ step: stepOf(path) }) },
    )
    const { result } = hooked(() => useReadings(aTrial()))
    await act(async () => {
      result.current.read('0:0.1', { release: 2 })
      result.current.read('0:0.2', { release: 2 })
    })
    await act(async () => jest.advanceTimersByTimeAsync(10_000))
    expect(result.current.unsaved).toBe(0)
    expect(result.current.aside).toHaveLength(1)
    expect(server.changes.map(({ path }) => stepOf(path))).toEqual(['0:0.1', '0:0.1', '0:0.1', '0:0.2'])
  })
})
