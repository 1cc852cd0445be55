/** @jest-environment jsdom */
import { expect, jest, test } from '@jest/globals'
import { newDocument } from '@tender/core/decide'
import type { KeptOutcome } from '@tender/core/plan'
import { act } from '@testing-library/react'
import { hooked, pass } from '../testing/view'

const anew = { id: 'anew', summary: { heightMm: 2 } }
const plan = jest.fn(async () => ({ ok: true, value: anew }))
const cancel = jest.fn(async () => undefined)
jest.unstable_mockModule('./geometry', () => ({
  planning: { plan, cancel, section: async () => null },
  proxy: (told: unknown) => told,
}))
let kept: object | null = null
let broken = false
jest.unstable_mockModule('./keptAnswers', () => ({
  keyOf: async (question: string) => question,
  keptAnswer: async () => (broken ? Promise.reject(new Error('no store')) : kept),
  keepAnswer: async () => undefined,
}))
const { useKeptOutcome, usePlanOutcome } = await import('./usePlanOutcome')
const document = newDocument({})
const opened = () =>
  hooked(() => usePlanOutcome('mesh', document, { mesh: 'mesh', kept: kept as KeptOutcome | null }))

test('what was kept is drawn before it is made anew; a stop in between keeps that from beginning', async () => {
  kept = { id: 'kept', summary: { heightMm: 1 }, sections: {} }
  jest.useFakeTimers()
  try {
    const { result } = opened()
    await pass(100)
    expect(result.current).toMatchObject({ outcome: { id: 'kept' }, working: true })
    expect(plan).not.toHaveBeenCalled()
    await pass(400)
    expect(plan).toHaveBeenCalledTimes(1)
    expect(result.current).toMatchObject({ outcome: { id: 'anew' }, working: false })

    const stopped = opened().result
    await pass(100)
    act(() => stopped.current.cancel())
    await pass(1000)
    expect(plan).toHaveBeenCalledTimes(1)
    expect(stopped.current).toMatchObject({ outcome: { id: 'kept' }, stopped: true, working: false })
    act(() => stopped.current.retry())
    await pass(100)
    expect(stopped.current).toMatchObject({ outcome: { id: 'anew' }, stopped: false })
  } finally {
    jest.useRealTimers()
  }
})

test('where nothing was kept it begins at once', async () => {
  kept = null
  plan.mockClear()
  jest.useFakeTimers()
  try {
    const { result } = opened()
    await pass(100)
    expect(plan).toHaveBeenCalledTimes(1)
    expect(result.current).toMatchObject({ outcome: { id: 'anew' }, working: false })
  } finally {
    jest.useRealTimers()
  }
})

test('what was kept is looked for once, as soon as it is known what is opened; where that fails nothing waits', async () => {
  kept = { id: 'kept', summary: { heightMm: 1 }, sections: {} }
  let known: typeof document | undefined
  const { result, rerender } = hooked(() => useKeptOutcome('mesh', known))
  expect(result.current).toBeUndefined()
  known = document
  await act(async () => rerender())
  expect(result.current).toMatchObject({ id: 'kept' })
  kept = null
  known = { ...document, decisions: { ...document.decisions, upperGapMm: 0.4 } }
  await act(async () => rerender())
  expect(result.current).toMatchObject({ id: 'kept' })
  broken = true
  const failing = hooked(() => useKeptOutcome('mesh', document)).result
  await act(async () => undefined)
  expect(failing.current).toBeNull()
})
