import { beforeAll, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { nearSides, regionAreaMm2, regionContains, regionFromRings, type PolygonEngine } from '../polygon'
import { closeTo } from '../testing'
import type { ToolPaths } from './toolPaths'
import { wallLines } from './wallLines'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))
const W = 0.45

/** A wall, or a wedge, 40 mm long, turned so that nothing of it lies along an axis. */
function wall(beginMm: number, endMm = beginMm) {
  const turn = 0.3
  const corners = [0, -beginMm / 2, 40, -endMm / 2, 40, endMm / 2, 0, beginMm / 2]
  return regionFromRings([
    corners.map((_, i) => {
      const [x, y] = [corners[i - (i % 2)], corners[i - (i % 2) + 1]]
      return i % 2 === 0 ? x * Math.cos(turn) - y * Math.sin(turn) : x * Math.sin(turn) + y * Math.cos(turn)
    }),
  ])
}

const laidMm2 = ({ xyMm, starts, flow }: ToolPaths) => {
  let mm2 = 0
  for (let p = 0; p < flow.length; p++)
    for (let i = starts[p]; i + 1 < starts[p + 1]; i++)
      mm2 += flow[p] * W * Math.hypot(xyMm[2 * i + 2] - xyMm[2 * i], xyMm[2 * i + 3] - xyMm[2 * i + 1])
  return mm2
}

/** Whether lines stay in a region, or reach out of it by no more than a slack, by places along them. */
const isWithin = ({ xyMm, starts, flow }: ToolPaths, region: ReturnType<typeof wall>, slackMm: number) => {
  for (let p = 0; p < flow.length; p++)
    for (let i = starts[p]; i + 1 < starts[p + 1]; i++)
      for (let t = 0; t <= 1; t += 0.125) {
        const x = xyMm[2 * i] + t * (xyMm[2 * i + 2] - xyMm[2 * i])
        const y = xyMm[2 * i + 1] + t * (xyMm[2 * i + 3] - xyMm[2 * i + 1])
        if (!regionContains(region, x, y)) return false
        if (nearSides(region, x, y, (flow[p] * W) / 2 - slackMm)) return false
      }
  return true
}

test('a wall gets as much plastic as it has room for, and none beside it, from 0.7 lines to five', () => {
  const shareOf = (thickMm: number) => {
    const { rings } = wallLines(wall(thickMm), 2, engine, W)
    for (const ring of rings) expect(isWithin(ring, wall(thickMm), 0.015)).toBe(true)
    return rings.reduce((sum, ring) => sum + laidMm2(ring), 0) / (40 * thickMm)
  }
  for (const thickMm of [
    0.35, 0.38, 0.44, 0.5, 0.6, 0.7, 0.77, 0.8, 0.86, 1, 1.05, 1.1, 1.2, 1.24, 1.34, 1.4, 1.5, 1.6, 1.67,
    1.76, 1.92, 2, 2.1, 2.2,
  ])
    closeTo(shareOf(thickMm), 0.99, 0.012)
  expect(wallLines(wall(0.3), 2, engine, W).rings.every(({ kinds }) => kinds.length === 0)).toBe(true)
})

test('walls share what is left within them, not the slot beside them', () => {
  const thickMm = 1.1
  const fin = (x: number) => [x, 0, x + thickMm, 0, x + thickMm, 30, x, 30]
  for (const slotMm of [0.1, 0.2, 0.3]) {
    const fins = regionFromRings([fin(0), fin(thickMm + slotMm), fin(2 * (thickMm + slotMm))])
    const { rings } = wallLines(fins, 2, engine, W)
    for (const ring of rings) expect(isWithin(ring, fins, 0.015)).toBe(true)
    closeTo(rings.reduce((sum, ring) => sum + laidMm2(ring), 0) / regionAreaMm2(fins), 0.99, 0.012)
  }
})

test('along a wedge one kind of line goes over into the next: little is left out, nothing laid twice', () => {
  const region = wall(0.32, 2)
  const { rings, inside } = wallLines(region, 2, engine, W)
  const share =
    rings.reduce((sum, ring) => sum + laidMm2(ring), regionAreaMm2(inside)) / regionAreaMm2(region)
  // Widths go in steps of a tenth.
  expect(share).toBeGreaterThan(0.96)
  expect(share).toBeLessThan(1)
  for (const ring of rings) expect(isWithin(ring, region, 0.03)).toBe(true)
})

test('where there is room, walls are whole rings, as many as asked for, and all of the rest is inside', () => {
  const region = wall(10)
  const { rings, inside } = wallLines(region, 3, engine, W)
  expect(rings.map(({ kinds }) => kinds.length)).toEqual([1, 1, 1])
  closeTo(regionAreaMm2(inside), (10 - 6 * W) * (40 - 6 * W), 0.05)
  closeTo(
    rings.reduce((sum, ring) => sum + laidMm2(ring), 0),
    400 - regionAreaMm2(inside),
    0.1,
  )
})
