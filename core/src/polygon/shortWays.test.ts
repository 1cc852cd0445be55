import { beforeAll, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { seeded } from '../testing'
import { GRID_PER_MM } from '../tolerances'
import {
  areApart,
  crossesSides,
  joinPieces,
  regionAreaMm2,
  regionFromRings,
  regionPerimeterMm,
  ringCount,
  type PolygonEngine,
  type Region,
} from '.'
import { growConvex } from './growConvex'
import { nearBox } from './nearBox'

let engine: PolygonEngine
beforeAll(async () => {
  engine = await polygonEngine()
})

const round = (x: number, y: number, r: number, corners: number, from = 0): number[] =>
  Array.from({ length: corners }, (_, k) => from + (2 * Math.PI * k) / corners).flatMap((a) => [
    x + r * Math.cos(a),
    y + r * Math.sin(a),
  ])
/** A shape so far off that what is asked together with it is asked the long way. */
const FAR = regionFromRings([[900, 900, 940, 900, 940, 910, 920, 902, 900, 910]])
const AROUND_FAR = regionFromRings([[880, 880, 980, 880, 980, 980, 880, 980]])
const apartMm2 = (a: Region, b: Region) =>
  regionAreaMm2(engine.minus(a, b)) + regionAreaMm2(engine.minus(b, a))

test('small shapes cut by long outlines are cut as they are together with far ones', () => {
  const { next: random } = seeded(11)
  let shorter = 0
  for (let n = 0; n < 120; n++) {
    // A wavy ring of some hundred corners with holes in its rim, as a slotted part has.
    const wavy = Array.from({ length: 300 }, (_, k) => (2 * Math.PI * k) / 300).flatMap((a) => {
      const r = 20 + 3 * Math.sin(11 * a) + random()
      return [r * Math.cos(a), r * Math.sin(a)]
    })
    const holes = Array.from({ length: 12 }, (_, k) =>
      round(14 * Math.cos(k / 2), 14 * Math.sin(k / 2), 1.5, 24),
    )
    const part = engine.minus(
      regionFromRings([wavy]),
      ...[round(0, 0, 9, 80), ...holes].map((one) => regionFromRings([one])),
    )
    const [turn, out] = [2 * Math.PI * random(), 6 + 18 * random()]
    const small = regionFromRings([
      round(out * Math.cos(turn), out * Math.sin(turn), 0.5 + 3 * random(), 4 + (n % 20), random()),
    ])
    const box = { minX: -24, minY: -2, maxX: -12, maxY: 2 }
    if (nearBox(part, box).xyMm.length < 0.5 * part.xyMm.length) shorter++
    const both = joinPieces([small, FAR])
    expect(apartMm2(engine.minus(small, part), engine.minus(engine.minus(both, part), FAR))).toBeLessThan(
      1e-6,
    )
    expect(apartMm2(engine.common(small, part), engine.common(both, part))).toBeLessThan(1e-6)
    expect(apartMm2(engine.common(part, small), engine.common(part, both))).toBeLessThan(1e-6)
  }
  expect(shorter).toBe(120)
})

test('convex shapes grow and shrink as they do together with far ones; others are left to the engine', () => {
  const { next: random } = seeded(5)
  let quick = 0
  for (let n = 0; n < 150; n++) {
    const corners = 3 + (n % 22)
    const turns = Array.from({ length: corners }, () => 2 * Math.PI * random()).sort((a, b) => a - b)
    const r = 0.3 + 5 * random()
    const shape = engine.clean(
      regionFromRings([turns.flatMap((a) => [10 + r * Math.cos(a), 1.6 * r * Math.sin(a)])]),
    )
    if (ringCount(shape) === 0) continue
    for (const deltaMm of [-0.225, -1.1, 0.4]) {
      const own = growConvex(shape, deltaMm)
      if (!own) continue
      quick++
      const long = engine.minus(engine.grow(joinPieces([shape, FAR]), deltaMm, 'miter'), AROUND_FAR)
      const aStepMm2 = regionPerimeterMm(long) / GRID_PER_MM
      expect([n, deltaMm, apartMm2(own, long) < 1e-5 + 2 * aStepMm2]).toEqual([n, deltaMm, true])
    }
  }
  expect(quick).toBeGreaterThan(300)
  const dented = regionFromRings([[0, 0, 4, 0, 4, 4, 2, 3.9, 0, 4]])
  const holed = regionFromRings([round(0, 0, 5, 12), round(0, 0, 2, 12).reverse()])
  expect([dented, holed].map((one) => growConvex(one, -0.2))).toEqual([null, null])
})

test('what touches along a slanted side is not apart, wherever its corners fall; what is moved off is', () => {
  const { next: random } = seeded(2)
  const onGrid = (mm: number) => Math.round(mm * 1e4) / 1e4
  for (let n = 0; n < 300; n++) {
    const [x, y, side] = [onGrid(90 * random()), onGrid(90 * random()), onGrid(2 + 8 * random())]
    const large = regionFromRings([[x, y, x + side, y + side, x, y + 2 * side, x - side, y + side]])
    // Its first corner lies on the lower right side of the large one, the others within it.
    const t = onGrid(0.2 + (side - 1) * random())
    const [px, py] = [onGrid(x + t), onGrid(y + t)]
    const small = regionFromRings([[px, py, onGrid(px - 0.05), onGrid(py + 0.1), onGrid(px - 0.1), py]])
    const aside = regionFromRings([[px + 0.02, py, px + 0.1, py - 0.05, px + 0.1, py]])
    expect([n, areApart(large, small), areApart(small, large)]).toEqual([n, false, false])
    expect([n, areApart(large, aside), areApart(aside, large)]).toEqual([n, true, true])
  }
})

test('a piece crosses outlines of many corners where it crosses one of their sides', () => {
  const { next: random } = seeded(29)
  const region = regionFromRings([round(3, -2, 20, 400), round(3, -2, 12, 90, 1), round(40, 5, 3, 7)])
  const { xyMm, starts } = region
  const sides = Array.from({ length: ringCount(region) }, (_, r) =>
    Array.from({ length: starts[r + 1] - starts[r] }, (_, i, n = starts[r + 1] - starts[r]) =>
      [starts[r] + i, starts[r] + ((i + 1) % n)].flatMap((p) => [xyMm[2 * p], xyMm[2 * p + 1]]),
    ),
  ).flat()
  let crossed = 0
  for (let n = 0; n < 2000; n++) {
    const [x0, y0] = [-25 + 75 * random(), -30 + 55 * random()]
    const [x1, y1] = [x0 + 8 * (random() - 0.5), y0 + 8 * (random() - 0.5)]
    const meets = sides.some(([ax, ay, bx, by]) => {
      const across = (x1 - x0) * (by - ay) - (y1 - y0) * (bx - ax)
      const s = ((ax - x0) * (by - ay) - (ay - y0) * (bx - ax)) / across
      const t = ((ax - x0) * (y1 - y0) - (ay - y0) * (x1 - x0)) / across
      return s > 0 && s < 1 && t > 0 && t < 1
    })
    if (meets) crossed++
    expect(crossesSides(region, x0, y0, x1, y1)).toBe(meets)
  }
  expect(crossed).toBeGreaterThan(100)
  expect(crossed).toBeLessThan(1800)
})

test('kinks as small as the grid change nothing of a convex shape that grows or shrinks, however long it is', () => {
  const { next: random } = seeded(5)
  for (let n = 0; n < 400; n++) {
    const shape = round(0, 0, 10 + 60 * random(), 3 + (n % 12), random())
    // On a side somewhere the outline goes on and comes back, by next to nothing.
    const at = 2 * Math.floor((random() * shape.length) / 2)
    const to = (at + 2) % shape.length
    const [dx, dy] = [shape[to] - shape[at], shape[to + 1] - shape[at + 1]]
    const mm = 10 ** (-4 + 3.5 * random())
    const share = 0.3 + 0.4 * random()
    const kinks = Array.from({ length: 3 }, (_, k) => [
      shape[at] + share * dx + (k * mm * dx) / Math.hypot(dx, dy) + (random() - 0.5) * Math.min(mm, 1e-3),
      shape[at + 1] + share * dy + (k * mm * dy) / Math.hypot(dx, dy) + (random() - 0.5) * Math.min(mm, 1e-3),
    ]).flat()
    const kinked = [...shape.slice(0, at + 2), ...kinks, ...shape.slice(at + 2)]
    for (const deltaMm of [-0.225, 0.225]) {
      const [own, plain] = [kinked, shape].map((ring) =>
        engine.grow(regionFromRings([ring]), deltaMm, 'miter'),
      )
      expect(apartMm2(own, plain)).toBeLessThan(0.005 * regionPerimeterMm(plain))
    }
  }
})
