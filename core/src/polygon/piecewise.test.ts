import { beforeAll, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { seeded } from '../testing'
import { GRID_PER_MM } from '../tolerances'
import {
  isEmptyRegion,
  joinPieces,
  regionAreaMm2,
  regionFromRings,
  regionPerimeterMm,
  splitPieces,
  stackEngine,
  type PolygonEngine,
  type Region,
} from '.'
import { lieOf, uncovered } from './lie'
import { withoutNotches } from './notches'

let plain: PolygonEngine
beforeAll(async () => {
  plain = await polygonEngine()
})

const ring = (x: number, y: number, r: number, corners = 12): number[] =>
  Array.from({ length: corners }, (_, k) => (2 * Math.PI * k) / corners).flatMap((a) => [
    x + r * Math.cos(a),
    y + r * Math.sin(a),
  ])
/** Discs and rings all over a square: some alone, some on each other, some in the hole of another. */
function scattered(random: () => number, count: number, corners = 12): Region {
  const discs = Array.from({ length: count }, () => {
    const [x, y, r] = [40 * random(), 40 * random(), 0.5 + 4 * random()]
    const disc = regionFromRings([ring(x, y, r, corners)])
    return random() < 0.4 ? plain.minus(disc, regionFromRings([ring(x, y, 0.7 * r, corners)])) : disc
  })
  return plain.union(...discs)
}
const apartMm2 = (a: Region, b: Region) => regionAreaMm2(plain.minus(a, b)) + regionAreaMm2(plain.minus(b, a))

/** Alike but for corners that the grid of the engine puts a step aside. */
const areSame = (a: Region, b: Region) => apartMm2(a, b) < 1e-3 + regionPerimeterMm(b) / GRID_PER_MM

test('working piece by piece gives the same areas as all at once, asked once or again', () => {
  const { next: random } = seeded(7)
  const pieces = stackEngine(plain)
  for (let n = 0; n < 40; n++) {
    const [a, b, c, d] = Array.from({ length: 4 }, () => scattered(random, 1 + Math.floor(14 * random())))
    const asked: [string, (engine: PolygonEngine) => Region][] = [
      ['union', (engine) => engine.union(a, b, c)],
      ['minus', (engine) => engine.minus(a, b, c)],
      ['minusAll', (engine) => engine.minusAll([a, b], [c, d])],
      ['common', (engine) => engine.common(a, b)],
      ['commonAll', (engine) => engine.commonAll([a, b], [c, d])],
      ['grow', (engine) => engine.grow(a, 0.8)],
      ['grow with corners', (engine) => engine.grow(a, 0.8, 'miter')],
      ['shrink', (engine) => engine.grow(a, -0.4, 'miter')],
    ]
    for (const [name, ask] of asked)
      for (const time of ['once', 'again'])
        expect([n, name, time, areSame(ask(pieces), ask(plain))]).toEqual([n, name, time, true])
  }
})

test('pieces that nothing meets are the same pieces afterwards, also in the hole of what was cut', () => {
  const pieces = stackEngine(plain)
  const frame = plain.minus(regionFromRings([ring(0, 0, 10)]), regionFromRings([ring(0, 0, 6)]))
  const [alone, inHole] = [regionFromRings([ring(30, 0, 3)]), regionFromRings([ring(0, 0, 2)])]
  const all = joinPieces([frame, alone, inHole])
  const before = splitPieces(all)
  const after = splitPieces(pieces.minus(all, regionFromRings([ring(10, 0, 1)])))
  expect(after).toHaveLength(3)
  expect(before.filter((piece) => after.includes(piece)).map(regionAreaMm2)).toEqual(
    [alone, inHole].map(regionAreaMm2),
  )
})

test('how pieces lie to each other is told as areas say, where it is told', () => {
  const { next: random } = seeded(3)
  for (const corners of [12, 160]) {
    const told = { within: 0, apart: 0, unknown: 0 }
    for (let n = 0; n < 300; n++)
      for (const a of splitPieces(scattered(random, 6, corners)))
        for (const b of splitPieces(scattered(random, 3, corners))) {
          const lie = lieOf(a, b)
          told[lie]++
          if (lie === 'within') expect(regionAreaMm2(plain.minus(a, b))).toBeLessThan(1e-3)
          if (lie === 'apart') expect(regionAreaMm2(plain.common(a, b))).toBeLessThan(1e-3)
        }
    expect(told.within).toBeGreaterThan(4)
    expect(told.apart).toBeGreaterThan(100)
    expect(told.unknown).toBeGreaterThan(100)
  }
})

test('of pieces that lie in each other the outer ones cover as much as all', () => {
  const { next: random } = seeded(11)
  let left = 0
  for (let n = 0; n < 60; n++) {
    const all = [scattered(random, 5, 40), scattered(random, 5, 120)].flatMap((one) =>
      [one, plain.grow(one, 0.4), plain.grow(one, -0.3)].flatMap(splitPieces),
    )
    const outer = uncovered(all)
    left += all.length - outer.length
    expect(apartMm2(plain.union(...all), plain.union(...outer))).toBeLessThan(1e-3)
  }
  expect(left).toBeGreaterThan(60 * 5)
  // What has the hole of another one in it covers that hole.
  const [disc, frame] = [regionFromRings([ring(0, 0, 9)]), regionFromRings([ring(0, 0, 10)])]
  const holed = plain.minus(frame, regionFromRings([ring(0, 0, 2)]))
  expect(uncovered([disc, holed])).toHaveLength(2)
  expect(uncovered([disc, frame, frame])).toEqual([frame])
})

test('notches of a stepped side are filled, what is round or holds something stays', () => {
  // Steps of 0.8 mm by 0.15 mm along the upper side, as a slope leaves them.
  const steps = Array.from({ length: 10 }, (_, k) => [
    8 - 0.8 * k,
    4,
    8 - 0.8 * k,
    4.15,
    7.4 - 0.8 * k,
    4.15,
  ]).flat()
  const stepped = plain.clean(regionFromRings([[0, 0, 8, 0, ...steps, 0, 4]]))
  const smooth = withoutNotches(stepped, 0.3)
  expect(smooth.xyMm.length).toBeLessThan(0.75 * stepped.xyMm.length)
  expect(isEmptyRegion(plain.minus(stepped, smooth))).toBe(true)
  expect(regionAreaMm2(smooth) - regionAreaMm2(stepped)).toBeLessThan(8 * 0.15)

  const bowl = plain.minus(regionFromRings([ring(0, 0, 12, 48)]), regionFromRings([ring(0, 0, 8, 160)]))
  let eaten = bowl
  for (let level = 0; level < 50; level++) eaten = withoutNotches(eaten, 0.3)
  // However often it is asked, no side moves by more than a tenth of a millimetre.
  expect(regionAreaMm2(eaten) - regionAreaMm2(bowl)).toBeLessThan(0.1 * 2 * Math.PI * 8)

  const notched = regionFromRings([[0, 0, 2, 0, 2, 4, 1, 3.8, 0, 4]])
  expect(regionAreaMm2(withoutNotches(notched, 0.3))).toBeCloseTo(8, 6)
  for (const corners of [12, 160]) {
    const [post, aside] = [1, 4].map((x) => regionFromRings([ring(x, 3.9, 0.05, corners)]))
    expect(withoutNotches(joinPieces([notched, post]), 0.3).xyMm.length).toBe(10 + post.xyMm.length)
    expect(withoutNotches(joinPieces([notched, aside]), 0.3).xyMm.length).toBe(8 + aside.xyMm.length)
  }
})
