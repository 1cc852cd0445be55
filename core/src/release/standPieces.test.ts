import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import type { Mesh } from '../mesh'
import { createPlanner } from '../plan'
import { regionFromRings, type PolygonEngine } from '../polygon'
import { aPlan, box, boxes, join, table } from '../testing'
import { standGrid } from '.'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

const turnedInside = (mesh: Mesh): Mesh => ({ ...mesh, corners: mesh.corners.slice().reverse() })
async function held(mesh: Mesh) {
  const { geometry, summary } = await createPlanner(engine).plan(
    'part',
    mesh,
    aPlan({ placement: 'anywhere', freeSpanMm: 0 }),
  )
  const grid = standGrid(
    geometry.layers,
    geometry.passes.filter(({ role }) => role === 'stand' || role === 'interface'),
  )
  const pieces = (grid?.pieces ?? []).filter(({ grossMm3 }) => grossMm3 > 20)
  const codes = summary.warnings
    .filter(({ code }) => code === 'LOCKED_IN' || code === 'UNSTEADY')
    .map(({ code, severity }) => `${code} ${severity}`)
  return { pieces, codes }
}

/** A box of 40 mm with a room of 34 x 34 x 14, and a bore of so many mm from outside into it. */
const room = (boreMm: number): Mesh =>
  boreMm === 0
    ? join([box([40, 40, 20]), turnedInside(box([34, 34, 14], [3, 3, 3]))])
    : boxes([
        { size: [40, 40, 3], at: [0, 0, 0] },
        { size: [40, 40, 3], at: [0, 0, 17] },
        { size: [3, 40, 14], at: [0, 0, 3] },
        { size: [3, 40, 14], at: [37, 0, 3] },
        { size: [40, 3, 14], at: [0, 37, 3] },
        { size: [20 - boreMm / 2, 3, 14], at: [0, 0, 3] },
        { size: [20 - boreMm / 2, 3, 14], at: [20 + boreMm / 2, 0, 3] },
      ])

describe('how supports are reached', () => {
  test('under an open plate: one ring around the post, wide open', async () => {
    const { pieces, codes } = await held(table)
    expect(pieces).toHaveLength(1)
    expect(pieces[0].openingMm).toBeGreaterThan(12)
    // 400 mm2 less the post and its side gap, 10 mm high.
    expect(Math.abs(pieces[0].grossMm3 / 3800 - 1)).toBeLessThan(0.1)
    expect(codes).toEqual([])
  })

  test('in a closed room nothing gets in; through a slit the width is that of the slit; through a gate it comes out', async () => {
    const closed = await held(room(0))
    expect(closed.pieces.map(({ openingMm }) => openingMm)).toEqual([0])
    expect(closed.codes).toEqual(['LOCKED_IN error'])
    const slit = await held(room(6))
    expect(Math.abs(slit.pieces[0].openingMm - 6)).toBeLessThan(1.2)
    // Far from all of it what is nearest counts.
    expect(Math.abs(slit.pieces[0].openingNearMm({ place: [90, 0, 8], withinMm: 10 }) - 6)).toBeLessThan(1.2)
    expect(slit.codes).toEqual(['LOCKED_IN warning'])
    expect((await held(room(30))).codes).toEqual([])
  })

  test('a wall far thinner than a cell parts two stands, of which one may be locked in', async () => {
    const shells: { size: [number, number, number]; at: [number, number, number] }[] = [
      { size: [120, 60, 1], at: [0, 0, 0] },
      { size: [120, 60, 1], at: [0, 0, 29] },
      { size: [120, 1, 28], at: [0, 59, 1] },
      // From front to back: two outer walls and one between.
      ...[0, 58.7, 119].map((x) => ({
        size: [1, 60, 28] as [number, number, number],
        at: [x, 0, 1] as [number, number, number],
      })),
    ]
    const open = await held(boxes(shells))
    expect(open.pieces).toHaveLength(2)
    expect(open.codes).toEqual([])
    const half = await held(boxes([...shells, { size: [58.7, 1, 28], at: [0, 0, 1] }]))
    expect(half.pieces.map(({ openingMm }) => openingMm > 20).sort()).toEqual([false, true])
    expect(half.codes).toEqual(['LOCKED_IN error'])
  })

  test('stands that one thin layer of interface joins are one piece, however high they end', () => {
    const square = (x: number, wide: number, deep = wide) =>
      regionFromRings([[x, 0, x + wide, 0, x + wide, deep, x, deep]])
    const pieces = (topMm: number, over: number) => {
      const stands = [square(0, 3), square(20, 3)].map((region) => ({ bottomMm: 0, topMm, region }))
      const sheet = {
        role: 'interface',
        bottomMm: topMm,
        topMm: topMm + 0.2,
        region: square(0, over, 3),
      }
      const ceiling = { bottomMm: topMm + 0.4, topMm: topMm + 2, region: square(-5, 33) }
      return standGrid([ceiling], [...stands, sheet])!.pieces.length
    }
    const tops = Array.from({ length: 12 }, (_, n) => 18 + n / 10)
    expect(tops.map((topMm) => pieces(topMm, 23))).toEqual(tops.map(() => 1))
    expect(tops.map((topMm) => pieces(topMm, 3))).toEqual(tops.map(() => 2))
  })

  test('a stand of 2 by 2 mm and 60 mm is unsteady, one of 12 by 12 is not', async () => {
    const arm = (wide: number): Mesh =>
      boxes([
        { size: [14, 14, 60], at: [0, 0, 0] },
        { size: [14 + wide + 6, wide, 3], at: [0, 7 - wide / 2, 60] },
      ])
    const bare = aPlan({ placement: 'bed', marginMm: 0, freeSpanMm: 0 })
    const codes = async (wide: number) =>
      (await createPlanner(engine).plan('arm', arm(wide), bare)).summary.warnings.map(({ code }) => code)
    expect(await codes(2)).toContain('UNSTEADY')
    expect(await codes(12)).not.toContain('UNSTEADY')
  })
})
