import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { poseMesh, turnAbout, type Mesh } from '../mesh'
import { regionAreaMm2, ringAreaMm2, ringCount, ringOf } from '../polygon'
import { box, boxes, closeTo, cone, join, sphere } from '../testing'
import { outlineCutter } from './cutOutlines'

const cutsOf = (mesh: Mesh, heights: readonly number[]) => {
  const cut = outlineCutter(mesh, Float64Array.from(heights))
  return heights.map((_, i) => cut(i))
}
const evenly = (from: number, step: number, count: number) =>
  Array.from({ length: count }, (_, i) => from + i * step)

/**
 * Signed area of a cut, triangle by triangle: each crossed one adds its stretch to the shoelace sum, in
 * whatever order.
 */
function areaByTriangles({ positionsMm: p, corners }: Mesh, z: number): number {
  let twice = 0
  for (let t = 0; t < corners.length; t += 3) {
    const ends: { x: number; y: number; rising: boolean }[] = []
    for (let k = 0; k < 3; k++) {
      const [a, b] = [3 * corners[t + k], 3 * corners[t + ((k + 1) % 3)]]
      if (p[a + 2] >= z === p[b + 2] >= z) continue
      const share = (z - p[a + 2]) / (p[b + 2] - p[a + 2])
      ends.push({
        x: p[a] + share * (p[b] - p[a]),
        y: p[a + 1] + share * (p[b + 1] - p[a + 1]),
        rising: p[b + 2] >= z,
      })
    }
    if (ends.length !== 2) continue
    const [from, to] = ends[0].rising ? [ends[1], ends[0]] : ends
    twice += from.x * to.y - to.x * from.y
  }
  return twice / 2
}

describe('cutting a mesh', () => {
  test('gives the area that the crossed triangles add up to, at any height, however the mesh lies', () => {
    const mesh = join([sphere(8, 24), box([5, 4, 9], [20, 0, 0])])
    const degrees = fc.integer({ min: 0, max: 359 })
    fc.assert(
      fc.property(degrees, fc.integer({ min: 1, max: 40 }), (turn, start) => {
        const posed = poseMesh(mesh, { turn: turnAbout([0.6, 0.8, 0], turn), scale: 1 })
        const heights = evenly(start / 17, 0.37, 20)
        cutsOf(posed, heights).forEach(({ region, mended }, i) => {
          expect(mended).toBe(0)
          closeTo(regionAreaMm2(region), areaByTriangles(posed, heights[i]), 1e-6)
        })
      }),
      { numRuns: 40 },
    )
  })

  test('heights need not be even: the first layer may differ, and so may all of them', () => {
    const mesh = cone(30, 10, 6)
    for (const heights of [[0.14, 0.5, 0.7, 0.9, 1.1], [0.1, 0.11, 3, 3.5, 9.9], [4], [1, 9]])
      cutsOf(mesh, heights).forEach(({ region }, i) =>
        closeTo(regionAreaMm2(region), areaByTriangles(mesh, heights[i]), 1e-9),
      )
  })

  test('what lies below the first and above the last cut costs nothing and gives nothing', () => {
    const [below, inside, above] = cutsOf(box([4, 4, 1], [0, 0, 5]), [3, 5.5, 7])
    expect([below, inside, above].map(({ region }) => ringCount(region))).toEqual([0, 1, 0])
  })

  test('a vertex exactly at a cut counts as above it: no ring is met twice, none is lost', () => {
    // Two pyramids tip to tip: the cut runs exactly through the tips and through the level of the upper base.
    const tips = join([cone(-40, 5, 6), cone(40, 5, 1)])
    for (const { region, mended } of cutsOf(tips, [0, 1, 5, 5.999, 6])) {
      expect(mended).toBe(0)
      for (let r = 0; r < ringCount(region); r++) expect(ringOf(region, r).length).toBeGreaterThanOrEqual(6)
    }
    const stairs = boxes([
      { size: [10, 10, 2], at: [0, 0, 0] },
      { size: [5, 5, 2], at: [0, 0, 2] },
    ])
    expect(cutsOf(stairs, [1, 2, 3]).map(({ region }) => regionAreaMm2(region))).toEqual([100, 100, 25])
  })

  test('a hollow runs the other way round', () => {
    const inner = box([4, 4, 4], [3, 3, 3])
    const [{ region }] = cutsOf(
      join([box([10, 10, 10]), { ...inner, corners: inner.corners.slice().reverse() }]),
      [5],
    )
    expect([0, 1].map((r) => Math.round(ringAreaMm2(ringOf(region, r)))).sort((a, b) => a - b)).toEqual([
      -16, 100,
    ])
  })

  test('an edge that four triangles share is walked through twice, not once too often', () => {
    // Two boxes that meet along an edge and share its vertices.
    const touching = boxes([
      { size: [5, 5, 8], at: [0, 0, 0] },
      { size: [5, 5, 8], at: [5, 5, 0] },
    ])
    const [{ region, mended }] = cutsOf(touching, [4])
    expect(mended).toBe(0)
    closeTo(regionAreaMm2(region), 50, 1e-9)
  })

  test('open ends are joined to the nearest start and counted', () => {
    const whole = box([10, 10, 3])
    const gap = { ...whole, corners: whole.corners.slice(0, -6) }
    const [{ region, mended }] = cutsOf(gap, [1.5])
    expect(mended).toBe(1)
    closeTo(regionAreaMm2(region), 100, 1e-9)
    // Two open shells do not borrow from each other while their own ends are nearer.
    const far = box([10, 10, 3], [40, 0, 0])
    const both = cutsOf(join([gap, { ...far, corners: far.corners.slice(0, -6) }]), [1.5])[0]
    expect(both.mended).toBe(2)
    closeTo(regionAreaMm2(both.region), 200, 1e-9)
  })

  test('coordinates that are no numbers neither hang it nor spoil the rest', () => {
    const whole = box([10, 10, 3])
    const spoilt = {
      positionsMm: Float64Array.from([...whole.positionsMm, NaN, NaN, NaN]),
      corners: Uint32Array.from([...whole.corners, 0, 1, whole.positionsMm.length / 3]),
    }
    const areas = cutsOf(spoilt, evenly(0.1, 0.2, 10)).map(({ region }) => regionAreaMm2(region))
    for (const area of areas) closeTo(area, 100, 1e-9)
  })
})
