/** @jest-environment jsdom */
import { beforeEach, describe, expect, test } from '@jest/globals'
import { PretendServer, hooked } from '../../testing/view'
import { act, fireEvent } from '@testing-library/react'
import type { PlanSummary } from '@tender/core/plan'
import { useCut } from './useCut'

/**
 * Forty layers of 0.2 mm on a first one of 0.3: an island at 3.1, undersides at 2.1 and 5.1, swaps at 2.1 and
 * 2.5.
 */
const zMm = Float64Array.from({ length: 40 }, (_, i) => 0.3 + 0.2 * i)
const swaps = Uint8Array.from(zMm, (z) => (Math.abs(z - 2.1) < 1e-9 || Math.abs(z - 2.5) < 1e-9 ? 1 : 0))
const summary = {
  heightMm: 8.1,
  layers: 40,
  contacts: [{ zMm: 2.1 }, { zMm: 5.1 }],
  islands: [{ zMm: 3.1 }],
  ribbon: { zMm, swaps },
} as unknown as PlanSummary

const cut = (path = '/plans/x', known: PlanSummary | null = summary) =>
  hooked(() => useCut(known, 0.2, 0.3), path).result
const press = (key: string, more: object = {}) =>
  act(() => void fireEvent.keyDown(window.document.body, { key, ...more }))

beforeEach(() => void new PretendServer(() => ({ body: null })))

describe('where a plan is cut', () => {
  test('at first at the first underside; the address says otherwise, within the part', () => {
    expect(cut().current.zMm).toBe(2.1)
    expect(cut('/plans/x?z=4').current.zMm).toBe(4)
    expect(cut('/plans/x?z=99').current.zMm).toBe(8.1)
    expect(cut('/plans/x?z=-3').current.zMm).toBe(0)
    expect(cut('/plans/x?z=soon').current.zMm).toBe(2.1)
    expect(cut('/plans/x?contact=2').current.zMm).toBe(5.1)
    expect(cut('/plans/x?contact=77').current.contact).toBe(1)
    expect(cut('/plans/x?contact=-4').current.contact).toBe(0)
    expect(cut('/plans/x', null).current.zMm).toBe(0)
  })

  test('brackets go layer by layer, through the middles, and stop at both ends', () => {
    const result = cut('/plans/x?z=0.5')
    expect(result.current.layer).toBe(2)
    press(']')
    expect([result.current.layer, result.current.zMm]).toEqual([3, 0.6])
    press('[')
    press('[')
    press('[')
    expect([result.current.layer, result.current.zMm]).toEqual([1, 0.15])
    act(() => result.current.step(500))
    expect([result.current.layer, result.current.zMm]).toEqual([40, 8])
    press(']')
    expect(result.current.layer).toBe(40)
  })

  test('every layer has a middle of its own and knows its number from it', () => {
    const result = cut('/plans/x?z=0')
    const seen = new Set<number>()
    for (let layer = 1; layer <= 40; layer++) {
      expect(result.current.layer).toBe(layer)
      if (layer > 1) seen.add(result.current.zMm)
      press(']')
    }
    expect(seen.size).toBe(39)
  })

  test('braces go from event to event: islands, undersides, swaps, each once', () => {
    const result = cut('/plans/x?z=0')
    const met: number[] = []
    for (let i = 0; i < 5; i++) {
      press('}')
      met.push(result.current.zMm)
    }
    expect(met).toEqual([2.1, 2.5, 3.1, 5.1, 5.1])
    press('{')
    expect(result.current.zMm).toBe(3.1)
    for (let i = 0; i < 5; i++) press('{')
    expect(result.current.zMm).toBe(2.1)
  })

  test('keys that belong to a field, a dialog or the browser are left to them', () => {
    const result = cut('/plans/x?z=4')
    const field = document.body.appendChild(document.createElement('input'))
    act(() => void fireEvent.keyDown(field, { key: ']' }))
    press(']', { ctrlKey: true })
    press('x')
    expect(result.current.zMm).toBe(4)
    field.remove()
  })

  test('an underside is shown just above its height, an island in its layer; one that is not there changes nothing', () => {
    const result = cut()
    act(() => result.current.selectContact(1))
    expect([result.current.contact, result.current.zMm]).toEqual([1, 5.11])
    act(() => result.current.selectIsland(0))
    expect([result.current.zMm, result.current.view]).toEqual([3.15, 'layer'])
    act(() => result.current.selectIsland(9))
    expect(result.current.zMm).toBe(3.15)
  })
})
