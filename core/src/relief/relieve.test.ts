import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine, solidEngine } from '../../node'
import { meshFacts, poseMesh, UPRIGHT, type Mesh } from '../mesh'
import { findOverhangs } from '../overhang'
import { solidOfPasses } from '../solid'
import { regionAreaMm2, type PolygonEngine } from '../polygon'
import { sliceMesh, type Layer } from '../slice'
import { boxes, closeTo, cone, sphere, turned } from '../testing'
import { reliefChange, relieve, type ReliefOptions } from '.'

let engine: PolygonEngine
beforeAll(async () => {
  engine = await polygonEngine()
})

const layersOf = async (mesh: Mesh, layerHeightMm = 0.2) =>
  (await sliceMesh(mesh, engine, { layerHeightMm, firstLayerHeightMm: layerHeightMm })).layers
const options = (changes: Partial<ReliefOptions> = {}): ReliefOptions => ({
  mode: 'add',
  freeAngleDeg: 45,
  lineWidthMm: 0.45,
  freeSpanMm: 0,
  ...changes,
})
const leftOver = async (layers: readonly Layer[], freeSpanMm = 0) =>
  (await findOverhangs(layers, engine, { freeAngleDeg: 45, lineWidthMm: 0.45, freeSpanMm })).patches.reduce(
    (sum, patch) => sum + patch.areaMm2,
    0,
  )
const volumeOf = (layers: readonly Layer[]) =>
  layers.reduce((sum, { region, topMm, bottomMm }) => sum + regionAreaMm2(region) * (topMm - bottomMm), 0)

const shapes: Record<string, Mesh> = {
  cone: cone(60),
  ball: sphere(10),
  T: boxes([
    { size: [4, 10, 10], at: [8, 0, 0] },
    { size: [20, 10, 2], at: [0, 0, 10] },
  ]),
  floating: boxes([
    { size: [4, 10, 12], at: [0, 0, 0] },
    { size: [12, 10, 2], at: [0, 0, 12] },
    { size: [2, 10, 4], at: [9, 0, 8] },
  ]),
  room: turned([
    [16, 0],
    [20, 0],
    [20, 22],
    [0, 22],
    [0, 18],
    [16, 18],
  ]),
}

test('whatever the shape, cutting leaves nothing past the limit, and never adds', async () => {
  for (const mesh of Object.values(shapes)) {
    const layers = await layersOf(mesh)
    expect(await leftOver(layers)).toBeGreaterThan(10)
    const cut = await relieve(layers, engine, options({ mode: 'cut' }))
    expect(await leftOver(cut.layers)).toBe(0)
    expect(cut.addedMm3).toBe(0)
    closeTo(volumeOf(cut.layers), volumeOf(layers) - cut.cutMm3, 1e-6)
    expect(cut.cutMm3).toBeGreaterThan(1)
  }
})

test('adding leaves hairs at most past the limit, never cuts, and every layer of the part stays in place', async () => {
  for (const mesh of Object.values(shapes)) {
    const layers = await layersOf(mesh)
    const before = await leftOver(layers)
    const full = await relieve(layers, engine, options())
    expect(full.cutMm3).toBe(0)
    // But for hairs along edges where two wedges meet, which lean more than the wedges, and a vault's
    // keystone.
    expect(await leftOver(full.layers)).toBeLessThan(0.06 * before)
    for (let i = 0; i < layers.length; i++)
      expect(regionAreaMm2(engine.minus(layers[i].region, full.layers[i].region))).toBeLessThan(0.05)
  }
})

describe('amounts agree with the hand calculation', () => {
  test('a cone of 60 degrees filled to 45 is the cone of 45 from its rim down to the bed', async () => {
    const layers = await layersOf(shapes.cone)
    const { addedMm3 } = await relieve(layers, engine, options())
    const rim = 6 + Math.tan(Math.PI / 3) * 12
    const frustum = (r: number, s: number, h: number) => (Math.PI * h * (r * r + r * s + s * s)) / 3
    const expected = frustum(rim - 13, rim, 13) - frustum(6, rim, 12) - Math.PI * 36
    closeTo(addedMm3, expected, 0.05 * expected)
  })

  test('the same cone cut to 45 is the cone of 45 from its foot', async () => {
    const layers = await layersOf(shapes.cone)
    const { cutMm3 } = await relieve(layers, engine, options({ mode: 'cut' }))
    const frustum = (r: number, s: number, h: number) => (Math.PI * h * (r * r + r * s + s * s)) / 3
    const expected = frustum(6, 6 + Math.tan(Math.PI / 3) * 12, 12) - frustum(6, 18, 12)
    closeTo(cutMm3, expected, 0.04 * expected)
  })

  test('a part within the limit stays the very same layers', async () => {
    const layers = await layersOf(cone(40))
    for (const mode of ['add', 'cut'] as const) {
      const { layers: after, changed } = await relieve(layers, engine, options({ mode }))
      expect(changed).toBe(0)
      after.forEach((layer, i) => expect(layer).toBe(layers[i]))
    }
  })
})

test('a bridge within the free span is neither filled nor cut; a longer one is', async () => {
  const bridge = boxes([
    { size: [5, 6, 8], at: [0, 0, 0] },
    { size: [5, 6, 8], at: [17, 0, 0] },
    { size: [22, 6, 2], at: [0, 0, 8] },
  ])
  const layers = await layersOf(bridge)
  expect((await relieve(layers, engine, options({ mode: 'cut', freeSpanMm: 13 }))).changed).toBe(0)
  expect((await relieve(layers, engine, options({ mode: 'cut', freeSpanMm: 5 }))).cutMm3).toBeGreaterThan(20)
})

test('a room with walls all round becomes a vault, not a block: wider spans leave more of it open', async () => {
  const layers = await layersOf(shapes.room)
  const [tight, wide] = [
    await relieve(layers, engine, options({ freeSpanMm: 2 })),
    await relieve(layers, engine, options({ freeSpanMm: 16 })),
  ]
  expect(wide.addedMm3).toBeLessThan(0.7 * tight.addedMm3)
  expect(tight.addedMm3).toBeLessThan(0.75 * Math.PI * 16 ** 2 * 18)
})

test('the sides that cope with more are left alone', async () => {
  const sides = [70, 70, 70, 45, 45, 45, 70, 70]
  const layers = await layersOf(cone(60))
  const { layers: after } = await relieve(layers, engine, options({ mode: 'cut', sideAnglesDeg: sides }))
  const top = after.at(-1)!.region.xyMm
  const reach = [Infinity, -Infinity]
  for (let i = 1; i < top.length; i += 2) {
    reach[0] = Math.min(reach[0], top[i])
    reach[1] = Math.max(reach[1], top[i])
  }
  // North keeps its 60 degrees, south is cut to 45.
  closeTo(reach[1], 26.7, 0.5)
  closeTo(reach[0], -18, 0.6)
})

test('adding follows the limit of each side too: a wedge under the side that copes with less, a smaller one under the other', async () => {
  const T = await layersOf(poseMesh(shapes.T, UPRIGHT))
  const even = await relieve(T, engine, options())
  const sides = await relieve(T, engine, options({ sideAnglesDeg: [45, 55, 65, 55, 45, 45, 45, 45] }))
  expect(sides.addedMm3).toBeLessThan(0.95 * even.addedMm3)
  const beside = (layers: readonly Layer[]) => {
    // Just under the plate: how far the material reaches on either side.
    const x = layers[48].region.xyMm.filter((_, i) => i % 2 === 0)
    return [Math.min(...x), Math.max(...x)]
  }
  const [west, east] = beside(sides.layers)
  closeTo(west, beside(even.layers)[0], 0.05)
  expect(east).toBeLessThan(beside(even.layers)[1] - 0.2)
  // The same limit all round by sides is the same as without.
  const same = await relieve(T, engine, options({ sideAnglesDeg: new Array<number>(8).fill(45) }))
  closeTo(same.addedMm3, even.addedMm3, 0.02 * even.addedMm3)
})

test('what was added is told as a change, and the whole comes out as one closed solid of its own volume', async () => {
  const layers = await layersOf(poseMesh(shapes.T, UPRIGHT))
  const { layers: after, addedMm3 } = await relieve(layers, engine, options())
  const { added, cut } = reliefChange(layers, after, engine)
  closeTo(
    added.reduce((sum, region) => sum + regionAreaMm2(region) * 0.2, 0),
    addedMm3,
    0.02 * addedMm3,
  )
  expect(cut.reduce((sum, region) => sum + regionAreaMm2(region), 0)).toBeLessThan(0.1)
  const solid = (await solidOfPasses(after, engine, await solidEngine(), () => undefined))!
  const facts = meshFacts(solid)
  expect(facts.watertight).toBe(true)
  closeTo(facts.volumeMm3, volumeOf(after), 0.01 * facts.volumeMm3)
})

test('can be stopped on the way', async () => {
  const layers = await layersOf(shapes.cone)
  for (const mode of ['add', 'cut'] as const)
    await expect(
      relieve(layers, engine, options({ mode }), () => {
        throw new Error('enough')
      }),
    ).rejects.toThrow('enough')
})
