import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { closeTo } from '../testing'
import { PATH_KINDS, type ToolPaths } from '../path'
import { drawnBackAfter } from './gcodeBlocks'
import { wipeAfter } from './moveRules'
import { createPathMeasurer, measurePaths, orderSwaps, toolsFor, type Motion } from '.'

describe('orderSwaps', () => {
  /** Every order of every height, the best of all: what the quick way must agree with. */
  function fewestByTrying(groups: readonly (readonly number[])[], loaded: number | null = null): number {
    if (groups.length === 0) return 0
    const [first, ...rest] = groups
    return Math.min(
      ...orders(first).map(
        (order) =>
          order.reduce(
            (sum, filament, i) =>
              sum + (filament === (i === 0 ? loaded : order[i - 1]) || (i === 0 && loaded === null) ? 0 : 1),
            0,
          ) + fewestByTrying(rest, order.at(-1)!),
      ),
    )
  }
  const orders = (list: readonly number[]): number[][] =>
    list.length < 2
      ? [[...list]]
      : list.flatMap((one) => orders(list.filter((other) => other !== one)).map((rest) => [one, ...rest]))

  test('neighbours share a filament: A B | B A | A B', () => {
    const { order, swaps } = orderSwaps([
      [0, 1],
      [0, 1],
      [0, 1],
    ])
    expect(swaps).toBe(3)
    expect(order[1]).toEqual([...order[0]].reverse())
    expect(order[2]).toEqual(order[0])
    expect(orderSwaps([[0], [0], [0]]).swaps).toBe(0)
    expect(orderSwaps([])).toEqual({ order: [], swaps: 0 })
  })

  test('agrees with trying every order, and tells an order that takes that many swaps', () => {
    const group = fc.uniqueArray(fc.integer({ min: 0, max: 3 }), { minLength: 1, maxLength: 3 })
    fc.assert(
      fc.property(fc.array(group, { minLength: 1, maxLength: 5 }), (groups) => {
        const { order, swaps } = orderSwaps(groups)
        expect(swaps).toBe(fewestByTrying(groups))
        const flat = order.flat()
        expect(flat.filter((filament, i) => i > 0 && filament !== flat[i - 1])).toHaveLength(swaps)
        order.forEach((one, i) => expect([...one].sort()).toEqual([...groups[i]].sort()))
      }),
      { numRuns: 150 },
    )
  })
})

describe('measurePaths', () => {
  const motion: Motion = {
    speedsMmS: PATH_KINDS.map(() => 50),
    travelMmS: 100,
    accelMmS2: 1000,
    cornerMmS: 5,
    retractS: 0.1,
    wipeMm: 0,
  }
  const line = (points: number[], kind = 0): ToolPaths => ({
    xyMm: Float64Array.from(points),
    starts: Uint32Array.from([0, points.length / 2]),
    kinds: Uint8Array.from([kind]),
    flow: Float32Array.from([1]),
  })

  test('a long straight takes its length at cruise plus one ramp: s / v + v / a', () => {
    // 100 mm at 50 mm/s and 1000 mm/s2: 2 s and 0.05 s.
    const { timeS, lengthMm } = measurePaths(line([0, 0, 100, 0]), motion)
    closeTo(timeS, 2.05, 1e-9)
    closeTo(lengthMm[0], 100, 1e-9)
  })

  test('a short straight never reaches cruise: 2 sqrt(s / a)', () => {
    closeTo(measurePaths(line([0, 0, 1, 0]), motion).timeS, 2 * Math.sqrt(1 / 1000), 1e-9)
  })

  test('a right angle slows down to corner / sqrt 2, a straight joint not at all', () => {
    closeTo(measurePaths(line([0, 0, 50, 0, 100, 0]), motion).timeS, 2.05, 1e-9)
    const v = 5 / Math.sqrt(2)
    // Two straights, each with one ramp to rest and one to the corner's speed.
    const half = (50 - (2500 / 2 + (2500 - v * v) / 2) / 1000) / 50 + 0.05 + (50 - v) / 1000
    closeTo(measurePaths(line([0, 0, 50, 0, 50, 50]), motion).timeS, 2 * half, 1e-9)
  })

  test('between paths the nozzle travels, and draws back only for a way that is worth it', () => {
    const paths = (gap: number): ToolPaths => ({
      xyMm: Float64Array.from([0, 0, 10, 0, 10 + gap, 0, 20 + gap, 0]),
      starts: Uint32Array.from([0, 2, 4]),
      kinds: Uint8Array.from([0, 1]),
      flow: Float32Array.from([1, 1]),
    })
    // Up and down again by 0.4 mm at 10 mm/s.
    const LIFT_S = 0.08
    const near = measurePaths(paths(1), motion)
    const far = measurePaths(paths(30), motion)
    closeTo(near.travelMm, 1, 1e-9)
    closeTo(far.timeS - near.timeS, 30 / 100 + 0.1 - 2 * Math.sqrt(1 / 1000) + 0.1 + LIFT_S, 1e-9)
    closeTo(far.lengthMm[0] + far.lengthMm[1], 20, 1e-9)
  })

  test('before a lifted way the nozzle wipes: back over an open line, on over a closed one; the way begins where that ends', () => {
    const open = (gap: number): ToolPaths => ({
      xyMm: Float64Array.from([0, 0, 10, 0, 10 + gap, 0, 20 + gap, 0]),
      starts: Uint32Array.from([0, 2, 4]),
      kinds: Uint8Array.from([0, 0]),
      flow: Float32Array.from([1, 1]),
    })
    const wiping = { ...motion, wipeMm: 2 }
    const s = (mm: number) => measurePaths(open(mm), wiping).travelMm
    closeTo(s(30), 2 + 32, 1e-9)
    closeTo(s(1), 1, 1e-9)
    const square = line([0, 0, 3, 0, 3, 3, 0, 3, 0, 0])
    expect(wipeAfter(square, 0, 4)).toEqual({ xyMm: [3, 0, 3, 1], straightsMm: [3, 1] })
    // Never more than there is.
    expect(wipeAfter(line([0, 0, 1, 0]), 0, 4)).toEqual({ xyMm: [0, 0], straightsMm: [1] })
  })

  test('what is remembered is the same as measured, and another speed is measured anew', () => {
    const measure = createPathMeasurer()
    const path = line([0, 0, 100, 0])
    const slow = { ...motion, speedsMmS: PATH_KINDS.map(() => 25) }
    expect([measure(path, motion), measure(path, motion)].map((one) => one.timeS)).toEqual([
      measurePaths(path, motion).timeS,
      measurePaths(path, motion).timeS,
    ])
    closeTo(measure(path, slow).timeS, 4.025, 1e-9)
  })
})

test('filaments print from where they are loaded; others take the places that are left', () => {
  const slots = ['part', 'stand', 'touch'].map((id) => ({ id }))
  expect(toolsFor(slots, [])).toEqual([0, 1, 2])
  expect(toolsFor(slots, ['stand', 'part'])).toEqual([1, 0, 2])
  expect(toolsFor(slots, [null, null, 'other', 'part'])).toEqual([3, 0, 1])
  expect(toolsFor(slots, ['touch'])).toEqual([1, 2, 0])
  // What is loaded and not printed with gives way last, before a place that there may not be.
  expect(toolsFor(slots, ['other', 'part', null])).toEqual([1, 2, 0])
  expect(toolsFor(slots, ['other', 'part'])).toEqual([1, 0, 2])
})

test.each([
  ['T1\nM109 S200', true, 0, 0.8, null],
  ['T1\nG1 E6 F200', true, 0, 0.8, 0],
  ['G01 E6 F200;G1 E-3\nG1 E-0.5', true, 0, 0.8, 0.5],
  ['g1 e0.5', true, 0, 0.8, 0.3],
  // Absolute: 40 to 46, back to 45.2; from zero anew after G92.
  ['G1 E46\nG1 X9 E45.2', false, 40, 0.8, 0.8],
  ['G92 E0\nG1 E6', false, 40, 0.8, 0],
  ['M83\nG1 E6\nM82', false, 40, 0, 0],
] as const)(
  'a swap block %j leaves filament drawn back by what it moves',
  (block, relative, e, backMm, left) => {
    const found = drawnBackAfter(block.split('\n'), { relative, e, backMm })
    if (left === null) expect(found).toBeNull()
    else expect(found).toBeCloseTo(left, 9)
  },
)
