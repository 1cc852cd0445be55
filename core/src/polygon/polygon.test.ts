import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { beforeAll, describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { polygonEngine } from '../../node'
import { closeTo, square, squareRing } from '../testing'
import {
  hatch,
  regionAreaMm2,
  regionContains,
  regionFromRings,
  ringAreaMm2,
  ringCount,
  splitPieces,
  type PolygonEngine,
} from '.'

let engine: PolygonEngine
beforeAll(async () => {
  engine = await polygonEngine()
})

const circle = (corners: number, radiusMm: number) =>
  Array.from({ length: corners }, (_, n) => (2 * Math.PI * n) / corners).flatMap((turn) => [
    radiusMm * Math.cos(turn),
    radiusMm * Math.sin(turn),
  ])

describe('boolean operations', () => {
  test('areas agree with the hand calculation', () => {
    // Two 10 mm squares, one moved by 4 in x and 3 in y: they share 6 x 7 = 42.
    const [a, b] = [square(10), square(10, 4, 3)]
    closeTo(regionAreaMm2(engine.common(a, b)), 42, 1e-3)
    closeTo(regionAreaMm2(engine.union(a, b)), 158, 1e-3)
    closeTo(regionAreaMm2(engine.minus(a, b)), 58, 1e-3)
    expect(ringCount(engine.minus(a, engine.grow(a, 1)))).toBe(0)
  })

  test('a grown square has rounded corners: area (s + 2d)^2 less the corners', () => {
    // 10 mm square grown by 2: 196 less (4 - pi) * 4 = 192.57.
    closeTo(regionAreaMm2(engine.grow(square(10), 2)), 196 - (4 - Math.PI) * 4, 0.01)
    closeTo(regionAreaMm2(engine.grow(square(10), 2, 'miter')), 196, 0.01)
    closeTo(regionAreaMm2(engine.grow(square(10), -2, 'miter')), 36, 0.01)
  })

  test('rings of any length come out as they went in, also when the memory of the engine has to grow', () => {
    const [wide, pentagon] = [regionFromRings([circle(400_000, 300)]), regionFromRings([circle(5, 60)])]
    const around = engine.minus(wide, pentagon)
    expect(ringCount(around)).toBe(2)
    closeTo(regionAreaMm2(around), regionAreaMm2(wide) - regionAreaMm2(pentagon), 0.5)
    closeTo(regionAreaMm2(engine.union(around, square(50, -25, -25))), regionAreaMm2(around) + 2500, 0.5)
  })

  test('a hole that reaches as far as its outer ring, and comes first, turns nothing inside out', () => {
    for (const turn of [1, -1]) {
      const tip = [10 * turn, 10 * turn]
      const hole = [...tip, 9 * turn, 8 * turn, 8 * turn, 9 * turn]
      const outer = [...tip, 0, 5 * turn, 0, 0, 5 * turn, 0]
      const region = regionFromRings([hole, outer])
      const ordered = regionFromRings([outer, hole])
      expect(regionAreaMm2(engine.grow(region, -0.1, 'miter'))).toBeGreaterThan(40)
      for (const delta of [-0.1, 0.1])
        closeTo(
          regionAreaMm2(engine.grow(region, delta, 'miter')),
          regionAreaMm2(engine.grow(ordered, delta, 'miter')),
          1e-3,
        )
    }
  })

  test('an outline folded over itself shrinks to nothing', () => {
    // Tenths of micrometres, as cutting leaves them: the last corner is the second again, but for rounding.
    const folded = [-1.1999, 4.8637, -1.20063745, 4.86530492, -1.2161, 4.8582, -1.2006, 4.8653]
    expect(ringCount(engine.grow(regionFromRings([folded]), -0.2, 'miter'))).toBe(0)
  })

  test.each([
    [1, 0.9997, 1.0001, 1],
    [1, 1, 1.0003, 1.0002],
    [1.0002, 0.9998, 1, 1],
    [1, 1.0004, 1, 1],
  ])(
    'a corner that points inwards shrinks without a spike, cut by a hair too: %d, %d to %d, %d',
    (...cut) => {
      const shrunk = (corner: readonly number[]) =>
        engine.grow(regionFromRings([[0, 0, 1, 0, ...corner, 3, 1.3, 3, 3, 0, 3]]), -0.3, 'miter')
      const [whole, hair] = [shrunk([1, 1]), shrunk(cut)]
      expect(hair.starts).toEqual(whole.starts)
      hair.xyMm.forEach((mm, i) => expect(Math.abs(mm - whole.xyMm[i])).toBeLessThan(3e-3))
    },
  )

  test('what is grown in one go is the same as grown and then cut', () => {
    const [a, b] = [square(20), square(6, 5, 5)]
    closeTo(
      regionAreaMm2(engine.minusGrown(a, b, 1.5)),
      regionAreaMm2(engine.minus(a, engine.grow(b, 1.5))),
      1e-6,
    )
    closeTo(
      regionAreaMm2(engine.commonGrown(a, b, 1.5, 'miter')),
      regionAreaMm2(engine.common(a, engine.grow(b, 1.5, 'miter'))),
      1e-6,
    )
  })

  test('for any two squares, union and overlap add up to both', () => {
    const mm = fc.integer({ min: 1, max: 400 }).map((n) => n / 10)
    fc.assert(
      fc.property(mm, mm, mm, mm, (s1, s2, x, y) => {
        const [a, b] = [square(s1), square(s2, x, y)]
        closeTo(
          regionAreaMm2(engine.union(a, b)) + regionAreaMm2(engine.common(a, b)),
          s1 * s1 + s2 * s2,
          1e-2,
        )
      }),
      { numRuns: 60 },
    )
  })

  test('memory of the engine does not grow with use', async () => {
    setFlagsFromString('--expose-gc')
    const collect = runInNewContext('gc') as () => void
    const round = circle(500, 30)
    // A shape of 500 corners is some 12 kB in the engine: what is kept of 1500 of them shows.
    const work = () => engine.minus(engine.grow(regionFromRings([round]), 1), square(10, 5, 5))
    // Arrays that are let go are given back on a thread beside: only what stays after a while is held.
    const bytes = async () => {
      for (let n = 0; n < 3; n++) {
        collect()
        await new Promise((resolve) => setTimeout(resolve, 30))
      }
      return process.memoryUsage().external
    }
    for (let i = 0; i < 300; i++) work()
    const before = await bytes()
    for (let i = 0; i < 1500; i++) work()
    expect((await bytes()) - before).toBeLessThan(6e6)
  })
})

test('splitPieces gives each hole to the tightest ring around it', () => {
  const hole = squareRing(4, 3, 3).reduceRight<number[]>(
    (flat, _, i, all) => (i % 2 === 0 ? [...flat, all[i], all[i + 1]] : flat),
    [],
  )
  const region = regionFromRings([squareRing(10), hole, squareRing(2, 4, 4), squareRing(5, 20, 0)])
  const areas = splitPieces(region)
    .map(regionAreaMm2)
    .sort((a, b) => a - b)
  // The island of 4 inside the hole of 16, the square of 25, and 100 - 16.
  expect(areas).toEqual([4, 25, 84])
})

test('a hole whose first corner touches the ring around it is not lost, whatever lies beside', () => {
  const hole = [10, 5, 8, 4, 8, 6]
  const region = regionFromRings([squareRing(10), hole, squareRing(5, 20, 0)])
  expect(ringAreaMm2(Float64Array.from(hole))).toBe(-2)
  expect(splitPieces(region).map(regionAreaMm2)).toEqual([98, 25])
})

describe('hatch', () => {
  const lengthOf = (lines: Float64Array) => {
    let sum = 0
    for (let s = 0; s < lines.length; s += 4)
      sum += Math.hypot(lines[s + 2] - lines[s], lines[s + 3] - lines[s + 1])
    return sum
  }

  test('covers a region once: length times spacing is the area', () => {
    const region = engine.minus(square(40), square(15, 10, 10))
    for (const angle of [0, 30, 45, 90, -45])
      closeTo(lengthOf(hatch(region, angle, 0.4)) * 0.4, 1600 - 225, 0.02 * 1375)
  })

  test('every line lies inside, at every angle', () => {
    const region = engine.minus(square(30), square(8, 11, 11))
    const lines = hatch(region, 37, 1.1, 0.2)
    expect(lines.length).toBeGreaterThan(40)
    for (let s = 0; s < lines.length; s += 4)
      for (const t of [0.01, 0.5, 0.99])
        expect(
          regionContains(
            region,
            lines[s] + t * (lines[s + 2] - lines[s]),
            lines[s + 1] + t * (lines[s + 3] - lines[s + 1]),
          ),
        ).toBe(true)
  })

  test('walks a ring side by side: the travels are short against the lines', () => {
    const ring = engine.minus(engine.grow(square(1), 20), engine.grow(square(1), 16))
    const lines = hatch(ring, 0, 0.45, 0.2)
    let travel = 0
    for (let s = 4; s < lines.length; s += 4)
      travel += Math.hypot(lines[s] - lines[s - 2], lines[s + 1] - lines[s - 1])
    // Line by line across the hole, every one of some 90 rows would cost a jump of up to 32 mm.
    expect(travel).toBeLessThan(0.3 * lengthOf(lines))
  })

  test('an empty region and one thinner than the trim give nothing', () => {
    expect(hatch(regionFromRings([]), 0, 1)).toHaveLength(0)
    expect(hatch(square(0.3), 0, 0.1, 0.2)).toHaveLength(0)
  })
})
