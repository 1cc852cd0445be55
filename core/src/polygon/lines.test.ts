import { beforeAll, describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { polygonEngine } from '../../node'
import { closeTo, square } from '../testing'
import {
  crossingsOf,
  headingOf,
  hatch,
  nearSides,
  regionAreaMm2,
  regionContains,
  regionFromRings,
  type PolygonEngine,
  type Region,
} from '.'

let engine: PolygonEngine
let framed: Region
beforeAll(async () => {
  engine = await polygonEngine()
  framed = engine.minus(square(20), square(8, 6, 6))
})

describe('one line across a region', () => {
  test('meets its sides in pairs, hole included, in whatever direction it runs', () => {
    expect(crossingsOf(framed, headingOf(0), 10)).toEqual([0, 6, 14, 20])
    expect(crossingsOf(framed, headingOf(0), 3)).toEqual([0, 20])
    const diagonal = crossingsOf(framed, headingOf(45), 0)
    ;[0, 6, 14, 20].forEach((at, i) => closeTo(diagonal[i], at * Math.SQRT2, 1e-6))
    // To the left of the heading lies towards smaller x when looking along +y.
    expect(crossingsOf(square(10), headingOf(90), -2)).toHaveLength(2)
    expect(crossingsOf(square(10), headingOf(90), 2)).toHaveLength(0)
  })

  test('through a corner it is met once or twice, never an odd number of times', () => {
    for (const across of [0, 6, 14, 20]) expect(crossingsOf(framed, headingOf(0), across).length % 2).toBe(0)
    const tip = regionFromRings([[0, 0, 10, 5, 0, 10]])
    expect(crossingsOf(tip, headingOf(0), 5)).toEqual([0, 10])
    expect(crossingsOf(regionFromRings([[0, 0, 10, 0, 5, 10]]), headingOf(0), 10)).toHaveLength(0)
  })

  test('many of them add up to the area, as hatching does', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 179 }), (direction) => {
        let sum = 0
        for (let across = -40; across < 40; across += 0.05) {
          const ends = crossingsOf(framed, headingOf(direction), across + 0.013)
          for (let i = 0; i < ends.length; i += 2) sum += (ends[i + 1] - ends[i]) * 0.05
        }
        closeTo(sum, regionAreaMm2(framed), 0.01 * 336)
      }),
      { numRuns: 20 },
    )
    expect(hatch(framed, 0, 0.5).length).toBeGreaterThan(100)
  })
})

test('near a side means within the distance of some side, inside or outside', () => {
  const far = (x: number, y: number) => {
    // The distance to a frame of two upright squares, by hand.
    const toSquare = (low: number, high: number) => {
      const [dx, dy] = [Math.max(low - x, 0, x - high), Math.max(low - y, 0, y - high)]
      return dx > 0 || dy > 0 ? Math.hypot(dx, dy) : Math.min(x - low, high - x, y - low, high - y)
    }
    return Math.min(toSquare(0, 20), toSquare(6, 14))
  }
  const place = fc.double({ min: -5, max: 25, noNaN: true })
  fc.assert(
    fc.property(place, place, fc.double({ min: 0.01, max: 6, noNaN: true }), (x, y, within) => {
      fc.pre(Math.abs(far(x, y) - within) > 1e-9)
      expect(nearSides(framed, x, y, within)).toBe(far(x, y) < within)
    }),
    { numRuns: 400 },
  )
  expect(nearSides(regionFromRings([]), 0, 0, 100)).toBe(false)
})

describe('what all of several regions share', () => {
  test('is taken off in one go just as step by step', () => {
    const mm = fc.integer({ min: 2, max: 300 }).map((n) => n / 10)
    fc.assert(
      fc.property(fc.array(fc.tuple(mm, mm, mm), { minLength: 1, maxLength: 5 }), (squares) => {
        const others = squares.map(([size, x, y]) => square(size, x - 10, y - 10))
        const shared = others.reduce((so, far) => engine.common(so, far))
        closeTo(
          regionAreaMm2(engine.minusCommon(framed, ...others)),
          regionAreaMm2(engine.minus(framed, shared)),
          0.02,
        )
      }),
      { numRuns: 60 },
    )
  })

  test('is nothing when there are no others, and everything stays when one of them is empty', () => {
    expect(regionAreaMm2(engine.minusCommon(framed))).toBe(0)
    expect(engine.minusCommon(framed, square(20), regionFromRings([]))).toBe(framed)
    expect(regionContains(engine.minusCommon(framed, square(10), square(10, 5, 0)), 7, 3)).toBe(false)
    expect(regionContains(engine.minusCommon(framed, square(10), square(10, 5, 0)), 3, 3)).toBe(true)
  })
})
