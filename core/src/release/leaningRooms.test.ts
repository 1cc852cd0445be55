import { beforeAll, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { applyPlacing, placingOf, turnAbout, unplaced } from '../mesh'
import { createPlanner, planRelease } from '../plan'
import type { PolygonEngine } from '../polygon'
import { aPlan, boxes } from '../testing'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

type Size = readonly [number, number, number]

/** A room shut on all sides but for a square window in its front. */
function room([wide, deep, tall]: Size, wallMm: number, windowMm: number) {
  const inner = tall - 2 * wallMm
  const [left, low] = [wide / 3, tall / 4]
  const above = tall - wallMm - low - windowMm
  return boxes([
    { size: [wide, deep, wallMm], at: [0, 0, 0] },
    { size: [wide, deep, wallMm], at: [0, 0, tall - wallMm] },
    { size: [wallMm, deep - 2 * wallMm, inner], at: [0, wallMm, wallMm] },
    { size: [wallMm, deep - 2 * wallMm, inner], at: [wide - wallMm, wallMm, wallMm] },
    { size: [wide, wallMm, inner], at: [0, deep - wallMm, wallMm] },
    ...(windowMm === 0
      ? [{ size: [wide, wallMm, inner] as const, at: [0, 0, wallMm] as const }]
      : [
          { size: [left, wallMm, inner] as const, at: [0, 0, wallMm] as const },
          {
            size: [wide - left - windowMm, wallMm, inner] as const,
            at: [left + windowMm, 0, wallMm] as const,
          },
          { size: [windowMm, wallMm, low - wallMm] as const, at: [left, 0, wallMm] as const },
          { size: [windowMm, wallMm, above] as const, at: [left, 0, low + windowMm] as const },
        ]),
  ])
}

test.each<[string, Size, number, number, number, number]>([
  ['nearly level, walls of three layers', [76, 69, 20], 0.63, 0, 0.4, 20],
  ['leaning', [76, 69, 20], 1, 0, 14, 10],
  ['nearly level with a window', [63, 64, 40], 1.08, 3.8, 1.7, 250],
  ['leaning with a window', [67, 60, 35], 0.72, 6.9, 4, 20],
])(
  'in rooms %s, however thin walls are for the grid, what stands inside is told apart from what stands below',
  async (_, size, wallMm, windowMm, leanDeg, turnDeg) => {
    const mesh = room(size, wallMm, windowMm)
    const turn = (turnDeg * Math.PI) / 180
    const placing = placingOf(mesh, {
      turn: turnAbout([Math.cos(turn), Math.sin(turn), 0], leanDeg),
      scale: 1,
    })
    const document = aPlan({ placement: 'anywhere', freeSpanMm: 0 })
    const result = await createPlanner(engine).plan('room', applyPlacing(mesh, placing), document)
    const stands = planRelease(document, result).stands.map(({ atMm, verdict, reachMm }) => ({
      isInside: unplaced(placing, atMm).every((at, axis) => at > wallMm / 2 && at < size[axis] - wallMm / 2),
      isShut: verdict === 'locked in',
      reachMm,
    }))
    const inside = stands.filter(({ isInside }) => isInside)
    expect(inside).toHaveLength(1)
    expect(Math.abs(inside[0].reachMm - windowMm)).toBeLessThan(0.5)
    expect(stands.filter(({ isInside, isShut }) => isShut !== (isInside && windowMm === 0))).toEqual([])
    const errors = result.summary.warnings.filter(
      ({ code, severity }) => `${code} ${severity}` === 'LOCKED_IN error',
    )
    expect(errors).toHaveLength(windowMm === 0 ? 1 : 0)
  },
)
