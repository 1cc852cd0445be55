import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../../node'
import {
  EMPTY_REGION,
  isEmptyRegion,
  regionAreaMm2,
  regionContains,
  regionFromRings,
  type PolygonEngine,
  type Region,
} from '../../polygon'
import type { Outlines } from '../outlines'
import { seeded } from '../../testing'
import { hullAround, hullInDisc, hullOf, hullsApart } from './hull'
import { openCells } from './openCells'
import { samplesOf } from './samples'
import { disc } from './section'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

const square = (x: number, y: number, side: number): Region =>
  regionFromRings([[x, y, x + side, y, x + side, y + side, x, y + side]])
const outlines = (levels: readonly Region[]): Outlines => ({
  count: levels.length,
  at: (level) => levels[level] ?? EMPTY_REGION,
  grown: (level, byMm) => engine.grow(levels[level] ?? EMPTY_REGION, byMm, 'round', 0.01),
})

describe('where branches can be', () => {
  test('beside a wall no nearer than asked, and never judged roomier than it is', () => {
    const wall = square(0, 0, 20)
    const open = openCells(outlines(new Array<Region>(40).fill(wall)), [square(-15, -15, 50)], {
      clearMm: 1.3,
      stepMm: 0.18,
      onPart: false,
      taken: () => [],
    })
    const wrong: string[] = []
    for (let cell = 0; cell < open.columns * open.rows; cell++) {
      const [x, y] = [open.xOf(cell), open.yOf(cell)]
      const away = Math.hypot(Math.max(0, -x, x - 20), Math.max(0, -y, y - 20))
      const inside = x > 0 && x < 20 && y > 0 && y < 20
      // A cell is half a millimetre or more; what is far enough by more than its diagonal is open.
      if ((inside || away < 1.3 - open.cellMm) && open.clear[0][cell]) wrong.push(`${x} ${y} is clear`)
      if (away > 1.3 + 2 * open.cellMm && !open.reach[0][cell]) wrong.push(`${x} ${y} is not reached`)
      if (!inside && open.roomMm(0, cell) > away + 1e-6) wrong.push(`${x} ${y} has less room`)
      if (open.cellAt(x, y) !== cell) wrong.push(`${x} ${y} is another cell`)
    }
    expect(open.columns * open.rows).toBeGreaterThan(1000)
    expect(wrong).toEqual([])
    expect(open.cellAt(1000, 0)).toBe(-1)
  })

  test('over a plate the bed is reached from its rim only, as far in as a branch leans on its way up', () => {
    const plate = square(0, 0, 60)
    const levels = [...new Array<Region>(5).fill(plate), ...new Array<Region>(60).fill(EMPTY_REGION)]
    const stepMm = 0.2
    const open = openCells(outlines(levels), [plate], { clearMm: 1, stepMm, onPart: false, taken: () => [] })
    /** How far over the plate a slab is reached, along the middle. */
    const inward = (slab: number): number => {
      let far = -Infinity
      for (let x = -2; x <= 30; x += 0.25)
        if (open.reach[slab][open.cellAt(x, 30)] === 1) far = Math.max(far, x)
      return far
    }
    const slabs = open.reach.length
    expect(inward(0)).toBeLessThan(0)
    const reached = Array.from({ length: slabs }, (_, slab) => inward(slab))
    for (let slab = 1; slab < slabs; slab++) expect(reached[slab]).toBeGreaterThanOrEqual(reached[slab - 1])
    // Never farther than the lean allows, and most of it.
    const most = (slabs - 1) * open.slabLevels * stepMm
    expect(reached.at(-1)!).toBeLessThanOrEqual(most)
    expect(reached.at(-1)!).toBeGreaterThan(0.5 * most - 3)
    // Where it may rest on the plate, its middle is as good as its rim; beside it there is no more room.
    const onPart = openCells(outlines(levels), [plate], { clearMm: 1, stepMm, onPart: true, taken: () => [] })
    const above = Math.ceil(5 / onPart.slabLevels)
    expect([above, above + 3].map((slab) => onPart.landing[slab][onPart.cellAt(30, 30)])).toEqual([1, 1])
    expect(onPart.landing[0]).toEqual(open.reach[0])
    expect(onPart.reach).toEqual(open.reach)
    expect(open.landing).toEqual(open.reach)
    // What else stands there bars the way too.
    const barred = openCells(outlines(levels), [plate], {
      clearMm: 1,
      stepMm,
      onPart: false,
      taken: () => [square(-20, -20, 100)],
    })
    expect(barred.reach.at(-1)!.every((one) => one === 0)).toBe(true)
  })
})

describe('crowns', () => {
  test('a hull has no dents, holds all of its places, and grows by as much as asked', () => {
    const places = [0, 0, 10, 0, 10, 8, 0, 8, 5, 4, 3, 1, 9, 7]
    const hull = hullOf(places)
    expect(hull).toHaveLength(8)
    const region = regionFromRings([hull])
    expect(regionAreaMm2(region)).toBeCloseTo(80, 9)
    const around = regionFromRings([hullAround(hull, 1)])
    for (let i = 0; i < places.length; i += 2)
      expect(regionContains(around, places[i], places[i + 1])).toBe(true)
    // Area of a rectangle grown by a round corner: sides, and nearly a whole disc.
    expect(regionAreaMm2(around)).toBeCloseTo(80 + 36 + Math.PI, 0)
  })

  test('what a hull shares with a circle is what the polygon engine says', () => {
    const hull = hullOf([0, 0, 12, 1, 9, 10, 2, 7])
    for (const [x, y, r] of [
      [5, 4, 2],
      [5, 4, 6],
      [0, 0, 3],
      [12, 8, 4],
      [40, 40, 3],
    ]) {
      const ours = hullInDisc(hull, x, y, r)
      const theirs = engine.common(regionFromRings([hull]), disc(x, y, r))
      expect(regionAreaMm2(ours)).toBeCloseTo(regionAreaMm2(theirs), 2)
    }
  })

  test('hulls that count as apart keep their distance; those that are farther than from side to side are found', () => {
    const { next } = seeded(7)
    const some = (x: number, y: number) =>
      hullOf(Array.from({ length: 12 }, (_, i) => (i % 2 ? y : x) + 8 * next() - 4))
    let [apart, near] = [0, 0]
    for (let n = 0; n < 200; n++) {
      const [one, other] = [some(0, 0), some(12 * next(), 12 * next())]
      const [a, b] = [one, other].map((ring) => regionFromRings([ring]))
      if (hullsApart(one, other, 0.5)) {
        apart++
        expect(isEmptyRegion(engine.common(engine.grow(a, 0.49, 'round', 0.001), b))).toBe(true)
      } else {
        near++
        expect(isEmptyRegion(engine.common(engine.grow(a, 1.5, 'round', 0.001), b))).toBe(false)
      }
    }
    expect(Math.min(apart, near)).toBeGreaterThan(40)
  })

  test('samples leave no spot of a region farther away than their pitch, however thin it is', () => {
    const thin = regionFromRings([[0, 0, 20, 0.3, 20, 0.4, 0, 0.1]])
    const samples = samplesOf(thin, 0.4)
    for (let x = 0; x <= 20; x += 0.1) {
      const y = 0.015 * x + 0.05
      let nearest = Infinity
      for (let i = 0; i < samples.length; i += 2)
        nearest = Math.min(nearest, Math.hypot(samples[i] - x, samples[i + 1] - y))
      expect(nearest).toBeLessThan(0.4)
    }
  })
})
