/** @jest-environment jsdom */
import { expect, jest, test } from '@jest/globals'
import type { LastKept } from '@tender/contract'
import { newDocument } from '@tender/core/decide'
import type { KeptOutcome } from '@tender/core/plan'
import { act } from '@testing-library/react'
import { hooked } from '../testing/view'

const anew = { id: 'anew', summary: { heightMm: 2 } }
const plan = jest.fn(async () => ({ ok: true, value: anew }))
const cancel = jest.fn(async () => undefined)
jest.unstable_mockModule('./geometry', () => ({
  planning: () => ({ plan, cancel, section: async () => null }),
  proxy: (told: unknown) => told,
}))
let kept: object | null = null
let told: object | null = null
let broken = false
jest.unstable_mockModule('./keptAnswers', () => ({
  keyOf: (question: string) => question,
  lastAnswer: () => told,
  keptAnswer: async () => (broken ? Promise.reject(new Error('no store')) : kept),
  keepAnswer: async () => undefined,
}))
const { useKeptOutcome, usePlanOutcome } = await import('./usePlanOutcome')
const document = newDocument({})

test('what was kept stands until it is made anew; stopped before that can begin, it does not', async () => {
  kept = { id: 'kept', summary: { heightMm: 1 }, sections: {} }
  const now: { mesh?: string } = {}
  const { result, rerender } = hooked(() =>
    usePlanOutcome(now.mesh, document, { plan: 'plan', mesh: 'mesh', kept: kept as KeptOutcome }),
  )
  expect(result.current).toMatchObject({ outcome: { id: 'kept' }, working: true })
  act(() => result.current.cancel())
  expect(result.current).toMatchObject({ outcome: { id: 'kept' }, stopped: true, working: false })
  now.mesh = 'mesh'
  await act(async () => rerender())
  expect(plan).not.toHaveBeenCalled()
  await act(async () => result.current.retry())
  expect(plan).toHaveBeenCalledTimes(1)
  expect(result.current).toMatchObject({ outcome: { id: 'anew' }, stopped: false, working: false })
})

test('what was kept is looked for once, as soon as it is known what is opened; where that fails nothing waits', async () => {
  kept = { id: 'kept', summary: { heightMm: 1 }, sections: {} }
  let known: typeof document | undefined
  const { result, rerender } = hooked(() => useKeptOutcome('plan', 'mesh', known, []))
  expect(result.current).toBeUndefined()
  known = document
  await act(async () => rerender())
  expect(result.current).toMatchObject({ id: 'kept' })
  kept = null
  known = { ...document, decisions: { ...document.decisions, upperGapMm: 0.4 } }
  await act(async () => rerender())
  expect(result.current).toMatchObject({ id: 'kept' })
  broken = true
  const failing = hooked(() => useKeptOutcome('plan', 'mesh', document, [])).result
  await act(async () => undefined)
  expect(failing.current).toBeNull()
})

test('what came along unasked is there at once, and stays whatever the plan becomes', async () => {
  told = { id: 'came along', summary: { heightMm: 1 }, sections: {} }
  kept = null
  broken = false
  let known = document
  const now: { last?: LastKept } = {}
  const { result, rerender } = hooked(() => useKeptOutcome('plan', 'mesh', known, now.last))
  await act(async () => undefined)
  // Nothing else is asked until it is known whether it did.
  expect(result.current).toBeUndefined()
  now.last = []
  rerender()
  expect(result.current).toBe(told)
  told = null
  known = { ...document, decisions: { ...document.decisions, upperGapMm: 0.4 } }
  await act(async () => rerender())
  expect(result.current).toMatchObject({ id: 'came along' })
})
