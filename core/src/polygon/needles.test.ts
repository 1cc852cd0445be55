import { beforeAll, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { closeTo, seeded } from '../testing'
import { regionAreaMm2, regionFromRings, withoutNeedles, type PolygonEngine, type Region } from '.'

let engine: PolygonEngine
beforeAll(async () => {
  engine = await polygonEngine()
})

/** A square of 10 mm, something growing out of its right side between two heights, and what is left of it. */
const withSide = (...side: number[]): Region => regionFromRings([[0, 0, 10, 0, ...side, 10, 10, 0, 10]])
const reach = ({ xyMm }: Region) => Math.max(...xyMm.filter((_, i) => i % 2 === 0))
const LIMIT_MM = 0.1

test('what is thinner than the limit ends where the rest begins, whatever its tip is like', () => {
  const needles = [
    [10, 5, 12, 5.02, 10, 5.04],
    [10, 5, 12, 5, 12, 5.06, 10, 5.06],
    // Curved, with corners of its own on both sides.
    [10, 5, 11, 5.3, 12, 5.9, 12.5, 6.5, 12, 5.96, 11, 5.37, 10, 5.08],
    // Without any width, and with its sides crossed by a micrometre or two.
    [10, 5, 12, 5, 10, 5],
    [10, 5.002, 12, 5.01, 10, 5],
  ]
  for (const needle of needles) {
    const cut = withoutNeedles(withSide(...needle), LIMIT_MM)
    expect(reach(cut)).toBeLessThan(10.25)
    closeTo(regionAreaMm2(cut), 100, 0.02)
    expect(withoutNeedles(cut, LIMIT_MM)).toBe(cut)
  }
  // One that widens goes as far as it is narrow: 0.1 wide 1 mm from its tip.
  closeTo(reach(withoutNeedles(withSide(10, 4.75, 15, 5, 10, 5.25), LIMIT_MM)), 14, 0.01)
})

test('ribs, tips, steps and notches stay as they are', () => {
  for (const side of [
    [10, 5, 12, 5, 12, 5.11, 10, 5.11],
    [10, 4, 12, 5, 10, 6],
    [10, 5, 10.05, 5, 10.05, 5.08, 10, 5.08],
    [10, 5, 6, 5.02, 10, 5.04],
  ]) {
    const region = withSide(...side)
    expect(withoutNeedles(region, LIMIT_MM)).toBe(region)
  }
})

test('of outlines cut at random only slivers go, and nothing is added', () => {
  const { next: random } = seeded(5)
  const round = (r: number) => {
    const [x, y] = [20 * random(), 20 * random()]
    return regionFromRings([
      Array.from({ length: 32 }, (_, k) => (Math.PI * k) / 16).flatMap((a) => [
        x + r * Math.cos(a),
        y + r * Math.sin(a),
      ]),
    ])
  }
  let needles = 0
  for (let n = 0; n < 200; n++) {
    const region = engine.minus(round(8), ...Array.from({ length: 6 }, () => round(2 + 3 * random())))
    const cut = withoutNeedles(region, LIMIT_MM)
    if (cut !== region) needles++
    expect(regionAreaMm2(engine.grow(engine.minus(cut, region), -0.001, 'miter'))).toBe(0)
    const lost = engine.minus(region, cut)
    expect(regionAreaMm2(engine.grow(lost, -LIMIT_MM / 2 - 0.001, 'miter'))).toBe(0)
  }
  expect(needles).toBeGreaterThan(20)
})
