/** @jest-environment jsdom */
import { expect, jest, test } from '@jest/globals'
import { NOTHING_LEARNT, type Learnt } from '@tender/core/decide'
import type { LastKept } from '@tender/contract'
import { act, waitFor } from '@testing-library/react'
import { hooked, PretendServer } from '../testing/view'
import type { KnownTrials } from './useKnownTrials'

const timed = (median: number): Learnt => ({
  ...NOTHING_LEARNT,
  minutes: { factor: { median, low: median / 2, high: median * 2 }, takeOffs: 3 },
})
let kept: Learnt | null = null
let told: Learnt | null = null
const fitted = jest.fn(async () => timed(1))
const keptAnswer = jest.fn(async () => kept)
const keepAnswer = jest.fn(async (..._: unknown[]) => undefined)
jest.unstable_mockModule('./fitting', () => ({ fitting: () => ({ learnt: fitted }) }))
jest.unstable_mockModule('./keptAnswers', () => ({
  keyOf: (question: string) => question,
  lastAnswer: () => told,
  keptAnswer,
  keepAnswer,
}))
const { useLearnt } = await import('./useLearnt')
const opened = () => {
  new PretendServer(() => ({ body: { items: [], total: 0 } }))
  let known: KnownTrials | undefined
  let last: LastKept | undefined
  const { result, rerender } = hooked(() => useLearnt(known, last))
  const answer = () => {
    last = []
    act(() => rerender())
  }
  const know = (learnt: Learnt) => {
    known = { learnt } as KnownTrials
    act(() => rerender())
  }
  return { result, know, answer }
}

test('what another browser learnt is taken without the thread that fits; what is fitted here counts', async () => {
  kept = timed(2)
  const { result, know, answer } = opened()
  answer()
  await waitFor(() => expect(result.current).toEqual(timed(2)))
  expect(fitted).not.toHaveBeenCalled()
  const before = result.current
  know(timed(2))
  // The same once more is no news: nothing is worked out anew for it.
  expect(result.current).toBe(before)
  know(timed(3))
  expect(result.current).toEqual(timed(3))
})

test('where nobody has, it is learnt here, and kept for all', async () => {
  kept = null
  const { result, answer } = opened()
  answer()
  await waitFor(() => expect(result.current).toEqual(timed(1)))
  expect(keepAnswer).toHaveBeenCalledWith(expect.any(String), timed(1), 'learnt')
})

test('what came along unasked is taken at once; until it is known whether it did, nothing else is asked', async () => {
  keptAnswer.mockClear()
  kept = timed(4)
  told = timed(5)
  const { result, answer } = opened()
  await act(async () => undefined)
  expect([result.current, keptAnswer.mock.calls.length]).toEqual([undefined, 0])
  answer()
  await waitFor(() => expect(result.current).toEqual(timed(5)))
  expect(keptAnswer).not.toHaveBeenCalled()
})
