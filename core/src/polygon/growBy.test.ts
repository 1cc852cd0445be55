import { beforeAll, describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { polygonEngine } from '../../node'
import { closeTo, seeded, square, squareRing } from '../testing'
import {
  boundsOf,
  growBy,
  reachOf,
  regionAreaMm2,
  regionContains,
  regionFromRings,
  ringCount,
  type PolygonEngine,
  type Reach,
  type Region,
} from '.'

let engine: PolygonEngine
beforeAll(async () => {
  engine = await polygonEngine()
})

describe('the shape of a reach', () => {
  test('with one limit all around it is a circle, drawn around', () => {
    const reach = reachOf(new Array<number>(48).fill(2))
    closeTo(regionAreaMm2(regionFromRings([reach])), Math.PI * 4, 0.02)
  })

  test('no direction is passed by more than its limit', () => {
    const limits = [1, 1.2, 2, 1.2, 1, 0.8, 0.5, 0.8]
    const reach = reachOf(limits)
    limits.forEach((limit, k) => {
      const [nx, ny] = [Math.cos((k * Math.PI) / 4), Math.sin((k * Math.PI) / 4)]
      let farthest = -Infinity
      for (let i = 0; i < reach.length; i += 2)
        farthest = Math.max(farthest, nx * reach[i] + ny * reach[i + 1])
      expect(farthest).toBeLessThanOrEqual(limit + 1e-9)
    })
  })
})

describe('growing by a shape', () => {
  const lopsided = reachOf([2.8, 2, 1, 1, 1, 1, 1, 2])

  test('a square grows by as much to each side as that side’s limit', () => {
    const grown = growBy(square(10), lopsided, engine)
    const { minX, maxX, minY, maxY } = boundsOf(grown.xyMm)
    closeTo(maxX, 12.8, 2e-3)
    closeTo(minX, -1, 2e-3)
    closeTo(maxY, 11, 2e-3)
    closeTo(minY, -1, 2e-3)
  })

  test('a hole closes from each side by the limit of the side that faces into it, and vanishes when it is small', () => {
    // A hole of 6 by 6: its left wall faces +x and closes by 2.8, its right wall faces -x and closes by 1, so
    // 2.2 stay; upright 1 + 1 go.
    const ring = regionFromRings([
      squareRing(20, 0, 0),
      squareRing(6, 7, 7)
        .reverse()
        .reduce<number[]>((flat, _, i, all) => (i % 2 === 0 ? [...flat, all[i + 1], all[i]] : flat), []),
    ])
    expect(ringCount(ring)).toBe(2)
    const grown = growBy(ring, lopsided, engine)
    const outer = growBy(square(20), lopsided, engine)
    const hole = regionAreaMm2(outer) - regionAreaMm2(grown)
    closeTo(hole, 2.2 * 4, 0.2)
    const small = regionFromRings([
      squareRing(20, 0, 0),
      Array.from(squareRing(1.2, 9, 9)).reduceRight<number[]>(
        (flat, value, i, all) => (i % 2 === 0 ? [...flat, value, all[i + 1]] : flat),
        [],
      ),
    ])
    closeTo(regionAreaMm2(growBy(small, lopsided, engine)), regionAreaMm2(outer), 1e-3)
  })

  test('is the Minkowski sum: a place belongs to it exactly when the shape, put there the other way round, meets the region', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const random = seeded(seed)
        const region = blobs(random, engine)
        const reach = reachOf(Array.from({ length: 12 }, () => 0.3 + random.next() * 1.6))
        const grown = growBy(region, reach, engine)
        const box = boundsOf(grown.xyMm)
        for (let i = 0; i < 40; i++) {
          const x = box.minX + random.next() * (box.maxX - box.minX)
          const y = box.minY + random.next() * (box.maxY - box.minY)
          const shared = regionAreaMm2(engine.common(region, mirroredAt(reach, x, y)))
          // On the very edge either answer is right.
          if (shared > 1e-3) expect(regionContains(grown, x, y)).toBe(true)
          else if (shared === 0) expect(regionContains(engine.grow(grown, -5e-4, 'miter'), x, y)).toBe(false)
        }
      }),
      { numRuns: 40, seed: 2 },
    )
  })
})

/** A few overlapping boxes with a hole cut out. */
function blobs(random: { next(): number }, polygons: PolygonEngine): Region {
  const some = (count: number, size: number) =>
    Array.from({ length: count }, () =>
      square(0.5 + random.next() * size, random.next() * 8, random.next() * 8),
    )
  return polygons.minus(polygons.union(...some(4, 5), square(6, 2, 2)), ...some(3, 2))
}

function mirroredAt(reach: Reach, x: number, y: number): Region {
  return regionFromRings([Array.from(reach, (value, i) => (i % 2 === 0 ? x : y) - value)])
}
