import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine, solidEngine } from '../../node'
import { meshFacts, type Mesh, type SolidEngine } from '../mesh'
import { regionAreaMm2, regionFromRings, type PolygonEngine } from '../polygon'
import { closeTo, seeded, square, squareRing } from '../testing'
import { apart } from './apart'
import { stackSolid, type Slab } from './stackSolid'

let polygons: PolygonEngine
let solids: SolidEngine
beforeAll(async () => {
  polygons = await polygonEngine()
  solids = await solidEngine()
})

/** One surface; null where it would be several, or one that does not close. */
const stack = async (slabs: readonly Slab[]) => {
  const stacked = await stackSolid(slabs, polygons, solids)
  return stacked.length === 1 && stacked[0].mesh ? apart(stacked[0].mesh) : null
}
const volumeOf = (slabs: readonly Slab[]) =>
  slabs.reduce((sum, { region, bottomMm, topMm }) => sum + regionAreaMm2(region) * (topMm - bottomMm), 0)

/** Each side of a triangle has exactly one counterpart. */
function expectClosed(mesh: Mesh | null): asserts mesh is Mesh {
  expect(mesh).not.toBeNull()
  const { corners } = mesh!
  const sides = new Map<string, number>()
  for (let i = 0; i < corners.length; i++) {
    const side = `${corners[i]}>${corners[i % 3 === 2 ? i - 2 : i + 1]}`
    sides.set(side, (sides.get(side) ?? 0) + 1)
  }
  const loose = [...sides].filter(
    ([side, count]) => count !== 1 || sides.get(side.split('>').reverse().join('>')) !== 1,
  )
  expect(loose).toEqual([])
}

describe('stacked slabs', () => {
  test('a single one is a box, faces outwards', async () => {
    const mesh = await stack([{ bottomMm: 1, topMm: 3, region: square(4) }])
    expectClosed(mesh)
    closeTo(meshFacts(mesh).volumeMm3, 32, 1e-6)
    expect(mesh.corners.length / 3).toBe(12)
  })

  test('a step, a hole that ends, and an overhang become one closed body of the right volume', async () => {
    const slabs = [
      { bottomMm: 0, topMm: 1, region: square(10) },
      { bottomMm: 1, topMm: 2, region: polygons.minus(square(10), square(4, 3, 3)) },
      { bottomMm: 2, topMm: 2.5, region: square(6, 6, 6) },
    ]
    const mesh = await stack(slabs)
    expectClosed(mesh)
    closeTo(meshFacts(mesh).volumeMm3, volumeOf(slabs), 1e-6)
    expect(meshFacts(mesh).shells).toBe(1)
    expect(meshFacts(mesh).sizeMm).toEqual([12, 12, 2.5])
  })

  test('outlines that share an edge for a while are cut at each other’s corners', async () => {
    const slabs = [
      { bottomMm: 0, topMm: 1, region: square(10) },
      { bottomMm: 1, topMm: 2, region: regionFromRings([squareRing(5, 0, 2.5)]) },
      { bottomMm: 2, topMm: 3, region: regionFromRings([squareRing(10, -5, -5)]) },
    ]
    const mesh = await stack(slabs)
    expectClosed(mesh)
    closeTo(meshFacts(mesh).volumeMm3, volumeOf(slabs), 1e-6)
  })

  test('what floats apart stays apart, what touches in a line alone keeps a surface of its own', async () => {
    const apart = await stack([
      { bottomMm: 0, topMm: 1, region: square(3) },
      { bottomMm: 1.4, topMm: 2, region: square(3) },
    ])
    expectClosed(apart)
    expect(meshFacts(apart).shells).toBe(2)
    // Side by side, one on the floor and one a storey up: they meet along an edge and nowhere else.
    const diagonal = await stack([
      { bottomMm: 0, topMm: 1, region: square(3) },
      { bottomMm: 1, topMm: 2, region: square(3, 3, 0) },
    ])
    expectClosed(diagonal)
    closeTo(meshFacts(diagonal).volumeMm3, 18, 1e-6)
  })

  test('crooked stacks of overlapping squares close at any heights, or are handed over to the slow way', async () => {
    const random = seeded(23)
    let closed = 0
    for (let n = 0; n < 40; n++) {
      let z = 0
      const slabs = Array.from({ length: 12 }, () => {
        const region = polygons.union(
          square(4 + 4 * random.next(), random.next(), random.next()),
          square(3 + 3 * random.next(), 3 * random.next(), 3 * random.next()),
        )
        return { bottomMm: z, topMm: (z += 0.1 + random.next()), region }
      })
      const mesh = await stack(slabs)
      if (!mesh) continue
      closed++
      expectClosed(mesh)
      closeTo(meshFacts(mesh).volumeMm3, volumeOf(slabs), 1e-3 * volumeOf(slabs))
    }
    expect(closed).toBeGreaterThan(35)
  })
})
