/** @jest-environment jsdom */
import { afterEach, beforeEach, expect, jest, test } from '@jest/globals'
import { pass, PretendServer, refusal, hooked, type Asked } from '../../testing/view'
import { act } from '@testing-library/react'
import { DEFAULT_PLAN, type PlanDocument } from '@tender/core/decide'
import type { Plan } from '@tender/contract'
import { aPlan } from '../../testing/samples'
import { usePlanDraft } from './usePlanDraft'

beforeEach(() => void jest.useFakeTimers())
afterEach(() => void jest.useRealTimers())

const withGap = (upperGapMm: number): PlanDocument => ({
  ...DEFAULT_PLAN,
  decisions: { ...DEFAULT_PLAN.decisions, upperGapMm },
})
const gapIn = (asked: Asked) => (asked.body as { document: PlanDocument }).document.decisions.upperGapMm
/** Keeps a plan as the server does: a save names the revision it started from, and gets the next one. */
function keeping(first: Plan) {
  let kept = first
  const server = new PretendServer(({ query, body }) => {
    if (query !== `revision=${kept.revision}`)
      return refusal(409, 'STALE', 'Somebody else has changed it.', { current: kept })
    kept = { ...kept, ...(body as object), revision: kept.revision + 1 }
    return { body: kept }
  })
  return {
    server,
    elsewhere: (changes: Partial<Plan>) => (kept = { ...kept, ...changes, revision: kept.revision + 1 }),
  }
}

test('a change is saved by itself once it rests, and several quick ones once', async () => {
  const { server } = keeping(aPlan())
  const { result } = hooked(() => usePlanDraft(aPlan(), null, true))
  expect(result.current.saved).toBe(true)
  for (const gap of [0.21, 0.22, 0.23]) {
    act(() => result.current.change(withGap(gap)))
    await pass(300)
  }
  expect(server.changes).toHaveLength(0)
  expect(result.current.saved).toBe(false)
  await pass(700)
  expect(server.changes.map(gapIn)).toEqual([0.23])
  expect(result.current.saved).toBe(true)
  // The next save names the revision that this one gave.
  act(() => result.current.change(withGap(0.3)))
  await pass(1000)
  expect(server.changes.map(({ query }) => query)).toEqual(['revision=1', 'revision=2'])
})

test('changes are taken back and made again, those that follow at once as one; what was taken back is saved', async () => {
  const { server } = keeping(aPlan())
  const { result } = hooked(() => usePlanDraft(aPlan(), null, true))
  const gap = () => result.current.document.decisions.upperGapMm
  const first = gap()
  expect([result.current.undo, result.current.redo]).toEqual([null, null])
  const change = async (gaps: readonly number[]) => {
    for (const one of gaps) act(() => result.current.change(withGap(one)))
    await pass(2000)
  }
  await change([0.31, 0.32, 0.33])
  await change([0.4])
  act(() => result.current.undo!())
  expect(gap()).toBe(0.33)
  act(() => result.current.undo!())
  expect(gap()).toBe(first)
  expect(result.current.undo).toBeNull()
  act(() => result.current.redo!())
  expect(gap()).toBe(0.33)
  await pass(2000)
  expect(server.changes.map(gapIn).at(-1)).toBe(0.33)
  // A new change leaves nothing to be made again.
  await change([0.5])
  expect(result.current.redo).toBeNull()
  act(() => result.current.undo!())
  expect(gap()).toBe(0.33)
})

test('while its numbers are being computed nothing is saved', async () => {
  const { server } = keeping(aPlan())
  const { result } = hooked(() => usePlanDraft(aPlan(), null, false))
  act(() => result.current.change(withGap(0.3)))
  await pass(5000)
  expect(server.changes).toHaveLength(0)
})

test('a plan that somebody else changed is not written over: theirs is shown, and taken when the maker says so', async () => {
  const { server, elsewhere } = keeping(aPlan())
  const { result } = hooked(() => usePlanDraft(aPlan(), null, true))
  elsewhere({ document: withGap(0.4) as Plan['document'] })
  act(() => result.current.change(withGap(0.1)))
  await pass(1000)
  expect(result.current.conflict?.document.decisions.upperGapMm).toBe(0.4)
  expect(result.current.document.decisions.upperGapMm).toBe(0.1)
  await pass(20_000)
  expect(server.changes).toHaveLength(1)
  act(() => result.current.takeTheirs())
  expect(result.current.document.decisions.upperGapMm).toBe(0.4)
  expect(result.current.saved).toBe(true)
  // And from there on changes are saved over theirs.
  act(() => result.current.change(withGap(0.5)))
  await pass(1000)
  expect(server.changes.at(-1)!.query).toBe('revision=2')
  expect(result.current.conflict).toBeNull()
})

test('numbers that another tab worked out of the same plan are no change of somebody’s', async () => {
  const { server, elsewhere } = keeping(aPlan())
  const { result } = hooked(() => usePlanDraft(aPlan(), null, true))
  elsewhere({
    figures: {
      massG: 9,
      wasteG: 2,
      cost: 0.2,
      timeS: 900,
      swapTimeS: 0,
      swaps: 0,
      pTender: null,
      errors: 0,
    },
  })
  act(() => result.current.change(withGap(0.1)))
  await pass(1000)
  expect(result.current.conflict).toBeNull()
  expect(result.current.saved).toBe(true)
  expect(server.changes.map(({ query }) => query)).toEqual(['revision=1', 'revision=2'])
  elsewhere({ document: withGap(0.4) as Plan['document'] })
  act(() => result.current.change(withGap(0.2)))
  await pass(1000)
  expect(result.current.conflict?.document.decisions.upperGapMm).toBe(0.4)
})

test('while the server is silent the draft stays, says so, and goes through later', async () => {
  const { server } = keeping(aPlan())
  server.unplugged = true
  const { result } = hooked(() => usePlanDraft(aPlan(), null, true))
  act(() => result.current.change(withGap(0.3)))
  await pass(1000)
  expect(result.current.problem).toContain('does not answer')
  server.unplugged = false
  await pass(5000)
  expect(result.current.problem).toBeNull()
  expect(server.changes.map(gapIn)).toEqual([0.3])
})

test('leaving in the moment before saving saves', async () => {
  const { server } = keeping(aPlan())
  const { result, unmount } = hooked(() => usePlanDraft(aPlan(), null, true))
  act(() => result.current.change(withGap(0.3)))
  await pass(100)
  unmount()
  await pass(10)
  expect(server.changes.map(gapIn)).toEqual([0.3])
})
