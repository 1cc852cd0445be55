/** @jest-environment jsdom */
import { beforeEach, describe, expect, jest, test } from '@jest/globals'
import { act, fireEvent } from '@testing-library/react'
import type { Wounds } from '../../../workers/partWork'
import { hooked, PretendServer } from '../../../testing/view'
import { stageMarks } from './stageMarks'
import { useHeight } from './useHeight'

beforeEach(() => void new PretendServer(() => ({ body: null })))

describe('the height a part is cut at', () => {
  const at = (typed: string | undefined, keys = true) => {
    const setAddress = jest.fn()
    const { result } = hooked(() => useHeight({ typed, topMm: 20, layerMm: 0.25, keys, setAddress }), '/')
    return { height: result.current, setAddress }
  }
  const press = (key: string, more: object = {}) =>
    act(() => void fireEvent.keyDown(window.document.body, { key, ...more }))

  test('is the middle at first, what the address says within the part, and never a word', () => {
    expect(at(undefined).height.zMm).toBe(10)
    expect(at('4.5').height.zMm).toBe(4.5)
    expect(at('99').height.zMm).toBe(20)
    expect(at('-2').height.zMm).toBe(0)
    expect(at('high up').height.zMm).toBe(0)
  })

  test('brackets go by a layer and stop at the top; without them, or with a modifier, nothing happens', () => {
    const low = at('4')
    press(']')
    expect(low.setAddress).toHaveBeenLastCalledWith({ z: '4.25' })
    press('[')
    expect(low.setAddress).toHaveBeenLastCalledWith({ z: '3.75' })
    press(']', { ctrlKey: true })
    expect(low.setAddress).toHaveBeenCalledTimes(2)
    const top = at('20')
    press(']')
    expect(top.setAddress).toHaveBeenLastCalledWith({ z: '20.00' })
    const still = at('4', false)
    press(']')
    expect(still.setAddress).not.toHaveBeenCalled()
  })
})

test('shells are marked while wounds are read, islands otherwise, and of a thousand only the first sixty', () => {
  const islands = Array.from({ length: 1000 }, (_, i) => ({ atMm: [0, 0, i] as const, areaMm2: 2 }))
  const marked = stageMarks([], islands as never)
  expect(marked).toHaveLength(60)
  expect(marked[59].label).toBe('Island 60 of 1000, 59.00 mm up, 2 mm²')
  const shells = [{ kind: 'speck', atMm: [1, 2, 3], sizeMm: 0.4 }] as unknown as Wounds['places']
  expect(stageMarks(shells, islands as never).map(({ label }) => label)).toEqual([
    'A speck, 0.4 mm long, 3.00 mm up',
  ])
})
