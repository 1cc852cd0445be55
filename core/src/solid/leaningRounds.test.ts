import { beforeAll, expect, test } from '@jest/globals'
import { polygonEngine, solidEngine } from '../../node'
import { meshFacts, type Mesh, type SolidEngine } from '../mesh'
import { isEmptyRegion, regionAreaMm2, type PolygonEngine } from '../polygon'
import { cutMesh } from '../slice'
import { disc } from '../stand'
import { closeTo, square } from '../testing'
import { solidOfPasses, type Filled } from '.'

let polygons: PolygonEngine
let solids: SolidEngine
beforeAll(async () => {
  polygons = await polygonEngine()
  solids = await solidEngine()
})

/** A branch of so many layers that moves by some millimetres in each. */
const branch = (layers: number, stepOf: (layer: number) => number): Filled[] => {
  let x = 0
  return Array.from({ length: layers }, (_, k) => {
    x += stepOf(k)
    const rounds = Float64Array.of(x, 0, 1.5)
    return { bottomMm: 0.2 * k, topMm: 0.2 * (k + 1), region: disc(x, 0, 1.5), rounds }
  })
}
const solidOf = async (passes: readonly Filled[], beside: readonly Filled[] = []) =>
  (await solidOfPasses(passes, polygons, solids, () => undefined, beside))!

/** What of cuts in the middle of layers is not as planned, in mm2. */
async function strayMm2(body: Mesh, passes: readonly Filled[]): Promise<number> {
  const cuts = await cutMesh(
    body,
    passes.map(({ bottomMm, topMm }) => (bottomMm + topMm) / 2),
    polygons,
  )
  const apart = cuts.map((cut, k) => [
    polygons.minus(cut, passes[k].region),
    polygons.minus(passes[k].region, cut),
  ])
  return Math.max(...apart.flat().map(regionAreaMm2))
}

test('a branch that leans evenly is one leaning tube; in the middle of each layer it is as planned', async () => {
  const passes = branch(30, (k) => (k === 0 ? 0 : 0.15))
  const body = await solidOf(passes)
  expect(await strayMm2(body, passes)).toBeLessThan(0.01)
  expect(meshFacts(body).watertight).toBe(true)
  // As a stair it has 30 walls of 32 triangles and as many treads.
  expect(body.corners.length / 3).toBeLessThan(400)
  // One that turns half-way has a joint there, and is as planned all the same.
  const turning = branch(30, (k) => (k === 0 ? 0 : k < 15 ? 0.15 : -0.1))
  const bent = await solidOf(turning)
  expect(await strayMm2(bent, turning)).toBeLessThan(0.01)
  expect(meshFacts(bent).watertight).toBe(true)
})

test('a branch does not lean into what its steps leave free', async () => {
  const passes = branch(30, (k) => (k === 0 ? 0 : 0.15))
  // Up to the middle of the way, right beside the step that comes nearest.
  const reachMm = 14 * 0.15 + 1.5
  const wall: Filled = { bottomMm: 0, topMm: 3, region: square(4, reachMm + 0.03, -2) }
  const body = await solidOf(passes, [wall])
  const heights = Array.from({ length: 60 }, (_, i) => 0.05 * i + 0.025)
  const cuts = await cutMesh(body, heights, polygons)
  expect(cuts.filter((cut) => !isEmptyRegion(polygons.common(cut, wall.region)))).toEqual([])
  // The same wall as a part of the body: both are there, and do not overlap.
  const both = meshFacts(await solidOf([...passes, wall]))
  expect(both.watertight).toBe(true)
  closeTo(both.volumeMm3, meshFacts(body).volumeMm3 + 4 * 4 * 3, 0.05)
})
