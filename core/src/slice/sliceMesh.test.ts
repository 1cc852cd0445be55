import { beforeAll, describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { polygonEngine, solidEngine } from '../../node'
import {
  composeTurns,
  demoParts,
  meshFacts,
  poseMesh,
  turnAbout,
  UPRIGHT,
  weldTriangles,
  type Mesh,
} from '../mesh'
import { regionAreaMm2, ringCount, type PolygonEngine } from '../polygon'
import { box, boxes, closeTo, join, seeded, sphere } from '../testing'
import { overlapExtent, sliceMesh } from '.'

let engine: PolygonEngine
beforeAll(async () => {
  engine = await polygonEngine()
})

const thin = { layerHeightMm: 0.1, firstLayerHeightMm: 0.1 }
const slice = (mesh: Mesh, options = thin) => sliceMesh(mesh, engine, options)
const volumeOf = async (mesh: Mesh, options = thin) => {
  const { layers } = await slice(mesh, options)
  return layers.reduce((sum, layer) => sum + regionAreaMm2(layer.region) * (layer.topMm - layer.bottomMm), 0)
}

/** The same triangles in another order, each started at another corner. */
function shuffled(mesh: Mesh, seed: number): Mesh {
  const random = seeded(seed)
  const order = Array.from({ length: mesh.corners.length / 3 }, (_, t) => t)
  for (let i = order.length - 1; i > 0; i--) {
    const j = Math.floor(random.next() * (i + 1))
    ;[order[i], order[j]] = [order[j], order[i]]
  }
  const turn = order.map(() => Math.floor(random.next() * 3))
  return {
    positionsMm: mesh.positionsMm,
    corners: Uint32Array.from(
      order.flatMap((t, i) => [0, 1, 2].map((c) => mesh.corners[3 * t + ((c + turn[i]) % 3)])),
    ),
  }
}

test('area times height agrees with the exact volume within 0.1 % at 0.1 mm layers, for every demo part', async () => {
  const parts = demoParts(await solidEngine())
  expect(parts).toHaveLength(5)
  for (const { mesh } of parts) {
    const posed = poseMesh(mesh, UPRIGHT)
    const exact = meshFacts(posed).volumeMm3
    closeTo(await volumeOf(posed), exact, 0.001 * exact)
  }
})

test('the volume does not depend on how the part is turned', async () => {
  const mesh = sphere(8)
  const exact = meshFacts(mesh).volumeMm3
  await fc.assert(
    fc.asyncProperty(fc.integer({ min: 0, max: 359 }), fc.integer({ min: 0, max: 179 }), async (a, b) => {
      const turn = composeTurns(turnAbout([1, 0, 0], a), turnAbout([0, 0, 1], b))
      closeTo(await volumeOf(poseMesh(mesh, { turn, scale: 1 })), exact, 0.002 * exact)
    }),
    { numRuns: 6 },
  )
})

describe('outlines', () => {
  test('neither the order of triangles nor where a triangle starts changes a layer', async () => {
    const mesh = join([sphere(6, 40), box([3, 3, 3], [10, 0, 0])])
    const plain = await slice(mesh)
    const mixed = await slice(shuffled(mesh, 7))
    expect(mixed.layers).toHaveLength(plain.layers.length)
    plain.layers.forEach((layer, i) =>
      closeTo(regionAreaMm2(mixed.layers[i].region), regionAreaMm2(layer.region), 1e-3),
    )
  })

  test('a cut exactly through vertices and level faces is met once', async () => {
    // Cuts at 0.125 and 0.375: the step, at 0.375, lies exactly on one.
    const quarter = { layerHeightMm: 0.25, firstLayerHeightMm: 0.25 }
    const { layers } = await slice(
      boxes([
        { size: [10, 10, 0.375], at: [0, 0, 0] },
        { size: [4, 4, 2], at: [3, 3, 0.375] },
      ]),
      quarter,
    )
    closeTo(regionAreaMm2(layers[1].region), 100, 1e-3)
    closeTo(regionAreaMm2(layers[2].region), 16, 1e-3)
    for (const layer of layers) expect(ringCount(layer.region)).toBe(1)
  })

  test('overlapping shells count once, and a shell turned inside out still prints', async () => {
    const overlap = await slice(
      boxes([
        { size: [10, 10, 2], at: [0, 0, 0] },
        { size: [10, 10, 2], at: [5, 0, 0] },
      ]),
    )
    closeTo(regionAreaMm2(overlap.layers[3].region), 150, 1e-3)
    const plain = box([10, 10, 2])
    const inside = { ...plain, corners: plain.corners.slice().reverse() }
    closeTo(regionAreaMm2((await slice(inside)).layers[3].region), 100, 1e-3)
  })

  test('where shells lie in one another is found layer by layer, with volume and heights; touching, hollow and inverted shells are no overlap', async () => {
    // Two boxes share 5 x 10 from 2 to 6 mm up; a third lies in both, over 2 x 2 of it.
    const crossing = [
      { size: [10, 10, 6], at: [0, 0, 0] },
      { size: [10, 10, 8], at: [5, 0, 2] },
    ] as const
    const found = await slice(boxes(crossing))
    closeTo(overlapExtent(found)!.volumeMm3, 5 * 10 * 4, 0.5)
    closeTo(overlapExtent(found)!.lowestMm, 2, 1e-6)
    closeTo(overlapExtent(found)!.highestMm, 6, 1e-6)
    expect(overlapExtent(found)!.sentence).toBe(
      'Its shells lie in one another by 0.2 cm³, from 2.0 to 6.0 mm up; sliced, that counts once.',
    )
    for (const { region } of found.overlaps) closeTo(regionAreaMm2(region), 50, 1e-2)
    const three = await slice(boxes([...crossing, { size: [2, 2, 1], at: [6, 4, 3] }]))
    closeTo(overlapExtent(three)!.volumeMm3, 200, 0.5)
    expect(
      overlapExtent(
        await slice(
          boxes([
            { size: [5, 5, 3], at: [0, 0, 0] },
            { size: [5, 5, 3], at: [5, 0, 0] },
          ]),
        ),
      ),
    ).toBeNull()
    const hollow = join([
      box([10, 10, 10]),
      { ...box([4, 4, 4], [3, 3, 3]), corners: box([4, 4, 4]).corners.slice().reverse() },
    ])
    expect((await slice(hollow)).overlaps).toHaveLength(0)
    expect((await slice(sphere(6, 40))).overlaps).toHaveLength(0)
  })

  test('equal layers are one object, so that later stages can skip them', async () => {
    const { layers } = await slice(box([10, 10, 3]))
    expect(new Set(layers.map((layer) => layer.region)).size).toBe(1)
  })

  test('layers meet in the very same number', async () => {
    const { layers } = await slice(box([5, 5, 7]), { layerHeightMm: 0.17, firstLayerHeightMm: 0.28 })
    expect(layers.length).toBeGreaterThan(30)
    layers.slice(1).forEach((layer, i) => expect(layer.bottomMm).toBe(layers[i].topMm))
  })
})

describe('meshes that are not what they should be', () => {
  test('a box without a wall is closed by the shortest way and counted', async () => {
    const plain = box([10, 10, 3])
    const open = { ...plain, corners: plain.corners.slice(0, -6) }
    const { layers, mendedOutlines } = await slice(open)
    closeTo(regionAreaMm2(layers[10].region), 100, 1e-3)
    expect(mendedOutlines).toBeGreaterThan(0)
  })

  test('a soup of unconnected triangles neither throws nor hangs', async () => {
    const random = seeded(3)
    const soup = Float32Array.from({ length: 9 * 400 }, () => random.next() * 20)
    const { layers } = await slice(poseMesh(weldTriangles(soup), UPRIGHT), {
      layerHeightMm: 0.5,
      firstLayerHeightMm: 0.5,
    })
    expect(layers.length).toBeGreaterThan(30)
    for (const layer of layers) expect(Number.isFinite(regionAreaMm2(layer.region))).toBe(true)
  })

  test('more layers than can be planned are refused with a sentence', async () => {
    await expect(
      slice(box([1, 1, 900]), { layerHeightMm: 0.04, firstLayerHeightMm: 0.04 }),
    ).rejects.toMatchObject({ code: 'LAYERS_TOO_MANY', message: expect.stringContaining('20000') })
  })
})
