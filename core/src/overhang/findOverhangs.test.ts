import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { poseMesh, turnAbout, UPRIGHT, type Mesh } from '../mesh'
import { isEmptyRegion, type PolygonEngine } from '../polygon'
import { sliceMesh } from '../slice'
import { box, boxes, closeTo, cone, sphere } from '../testing'
import { findOverhangs } from '.'

let engine: PolygonEngine
beforeAll(async () => {
  engine = await polygonEngine()
})

async function hanging(mesh: Mesh, freeAngleDeg: number, layerHeightMm = 0.2) {
  const { layers } = await sliceMesh(mesh, engine, { layerHeightMm, firstLayerHeightMm: layerHeightMm })
  const found = await findOverhangs(layers, engine, { freeAngleDeg, lineWidthMm: 0.45 })
  return { ...found, layers, areaMm2: found.patches.reduce((sum, patch) => sum + patch.areaMm2, 0) }
}

describe('against the hand calculation', () => {
  test('a cone at the limit less half a degree needs nothing, half a degree past it all of it', async () => {
    for (const limit of [35, 48, 60]) {
      expect((await hanging(cone(limit - 0.5), limit)).patches).toHaveLength(0)
      const past = await hanging(cone(limit + 0.5), limit)
      expect(past.patches).toHaveLength(1)
      // Everything between foot and rim, seen from below, but for the first half layer on either end.
      const rim = 6 + Math.tan(((limit + 0.5) * Math.PI) / 180) * 12
      const whole = Math.PI * (rim ** 2 - 36)
      closeTo(past.areaMm2, whole, 0.04 * whole)
      expect(past.patches[0].kind).toBe('sloped')
    }
  })

  test('a plate on a post hangs with all but the post', async () => {
    const { patches, areaMm2, islands } = await hanging(
      boxes([
        { size: [4, 4, 10], at: [8, 8, 0] },
        { size: [20, 20, 2], at: [0, 0, 10] },
      ]),
      45,
    )
    expect(islands).toHaveLength(0)
    expect(patches).toHaveLength(1)
    expect(patches[0]).toMatchObject({ kind: 'flat' })
    closeTo(patches[0].lowestMm, 10, 1e-6)
    closeTo(areaMm2, 400 - 16, 0.01 * 384)
  })

  test('a ball needs holding below the latitude where it leans past the limit', async () => {
    // At height z the surface leans asin((r - z) / r) from vertical; past 50 degrees below z = r (1 - sin
    // 50), radius r cos 50.
    const r = 12
    const { areaMm2 } = await hanging(poseMesh(sphere(r, 160), UPRIGHT), 50, 0.1)
    const expected = Math.PI * (r * Math.cos((50 * Math.PI) / 180)) ** 2
    // The first layer lies on the bed: a cap of 0.05 mm at its middle, area 2 pi r times that.
    closeTo(areaMm2, expected - 2 * Math.PI * r * 0.05, 0.03 * expected)
  })

  test('stairs steeper and flatter than the limit are told apart', async () => {
    const stairs = (stepMm: number) =>
      boxes(
        Array.from({ length: 20 }, (_, i) => ({
          size: [10 + i * stepMm, 10, 0.2] as const,
          at: [0, 0, i * 0.2] as const,
        })),
      )
    // Steps of 0.2 mm up and s out lean atan(s / 0.2): 0.19 is 43.5 degrees, 0.22 is 47.7.
    expect((await hanging(stairs(0.19), 45)).patches).toHaveLength(0)
    const { areaMm2 } = await hanging(stairs(0.22), 45)
    closeTo(areaMm2, 19 * 0.22 * 10, 0.02 * 41.8)
  })
})

describe('islands', () => {
  const arch = boxes([
    { size: [4, 10, 12], at: [0, 0, 0] },
    { size: [12, 10, 2], at: [0, 0, 12] },
    { size: [2, 10, 4], at: [9, 0, 8] },
  ])

  test('what begins in mid-air is named with its height and area, even when it is thin', async () => {
    const { islands, patches } = await hanging(arch, 45)
    expect(islands).toHaveLength(1)
    closeTo(islands[0].zMm, 8, 1e-6)
    closeTo(islands[0].areaMm2, 20, 0.01)
    expect(patches.some((patch) => Math.abs(patch.lowestMm - 8) < 1e-6)).toBe(true)
    const needle = await hanging(
      boxes([
        { size: [10, 10, 10], at: [0, 0, 0] },
        { size: [0.3, 0.3, 4], at: [20, 0, 6] },
      ]),
      45,
    )
    expect(needle.islands).toHaveLength(1)
    expect(needle.hold.filter((region) => !isEmptyRegion(region))).toHaveLength(1)
  })

  test('a hair’s breadth of ledge is a sliver and dropped, a ledge of a line is kept', async () => {
    const ledge = (out: number) =>
      boxes([
        { size: [10, 10, 5], at: [0, 0, 0] },
        { size: [10 + out, 10, 5], at: [0, 0, 5] },
      ])
    expect((await hanging(ledge(0.21), 30)).patches).toHaveLength(0)
    expect((await hanging(ledge(0.5), 30)).patches).toHaveLength(1)
  })
})

test('neither moving the part nor turning it about its upright axis changes what hangs', async () => {
  const mesh = boxes([
    { size: [4, 4, 10], at: [8, 8, 0] },
    { size: [20, 14, 2], at: [0, 0, 10] },
  ])
  const here = await hanging(mesh, 45)
  const there = await hanging(
    { ...mesh, positionsMm: mesh.positionsMm.map((value, i) => (i % 3 === 2 ? value : value + 83.21)) },
    45,
  )
  const turnedBy = await hanging(poseMesh(mesh, { turn: turnAbout([0, 0, 1], 33), scale: 1 }), 45)
  expect(here.areaMm2).toBeGreaterThan(200)
  closeTo(there.areaMm2, here.areaMm2, 0.02)
  closeTo(turnedBy.areaMm2, here.areaMm2, 0.05)
})

test('an upright box needs nothing, at any limit', async () => {
  for (const limit of [5, 45, 89]) expect((await hanging(box([10, 10, 10]), limit)).patches).toHaveLength(0)
})
