/** @jest-environment jsdom */
import { expect, test } from '@jest/globals'
import { regionFromRings } from '@tender/core/polygon'
import type { PlanGeometry } from '@tender/core/plan'
import { planSpace } from './planSpace'

type Pass = PlanGeometry['passes'][number]
const square = (side: number) => regionFromRings([[0, 0, side, 0, side, side, 0, side]])
const ring = regionFromRings([
  [0, 0, 10, 0, 10, 10, 0, 10],
  [3, 3, 3, 7, 7, 7, 7, 3],
])
const pass = (role: Pass['role'], region: Pass['region'], bottomMm: number, topMm: number) =>
  ({ role, region, bottomMm, topMm }) as Pass

/** Volume inside triangles: right only when they close and all look outwards. */
function volume(positions: Float32Array): number {
  let six = 0
  for (let t = 0; t < positions.length; t += 9) {
    const [ax, ay, az, bx, by, bz, cx, cy, cz] = positions.subarray(t, t + 9)
    six += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx)
  }
  return six / 6
}

test('stands and interface are closed bodies of their own; equal layers on each other are one, holes stay holes', () => {
  const same = square(4)
  const passes = [
    pass('stand', same, 0, 0.2),
    pass('stand', same, 0.2, 0.4),
    pass('footing', ring, 0, 0.2),
    pass('interface', ring, 0.4, 0.6),
  ]
  const { stand, interface: touching } = planSpace({ passes, towerLaid: null })
  expect(volume(stand)).toBeCloseTo(16 * 0.4 + 84 * 0.2, 4)
  expect(volume(touching)).toBeCloseTo(84 * 0.2, 4)
  // Two layers of one square: walls and caps once.
  const walls = 2 * (4 + 8)
  const caps = 2 * (2 + 8)
  expect(stand.length / 9).toBe(walls + caps)
})

test('what is too heavy to draw is thinned out, and keeps its height and volume', () => {
  const round = (radius: number) =>
    regionFromRings([
      Array.from({ length: 200 }, (_, n) => (2 * Math.PI * n) / 200).flatMap((turn) => [
        radius * Math.cos(turn),
        radius * Math.sin(turn),
      ]),
    ])
  const passes = Array.from({ length: 600 }, (_, k) => pass('stand', round(5), 0.2 * k, 0.2 * (k + 1)))
  const { stand } = planSpace({ passes, towerLaid: null })
  expect(stand.length / 9).toBeLessThan(200_000)
  expect(volume(stand)).toBeCloseTo(120 * Math.PI * 25, -2)
  expect(stand.reduce((top, value, i) => (i % 3 === 2 ? Math.max(top, value) : top), 0)).toBeCloseTo(120, 4)
})
