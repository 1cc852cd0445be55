import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import {
  nearSides,
  regionAreaMm2,
  regionContains,
  regionFromRings,
  type PolygonEngine,
  type Region,
} from '../polygon'
import type { Fill, SupportPass } from '../stand'
import { closeTo } from '../testing'
import { interfaceCover, supportPaths, type SupportPathOptions } from './supportPaths'
import type { ToolPaths } from './toolPaths'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

const W = 0.45
const OPTIONS: SupportPathOptions = {
  lineWidthMm: W,
  standLines: 'separate',
  standKind: 'straight',
  standWalls: 0,
  standDensity: 0.12,
  denseTopDensity: 0.3,
  interfaceSpacingMm: 0,
  interfaceLines: 'straight',
  interfaceDirection: 'across',
}
const pass = (region: Region, fill: Fill, facesLayer = 10): SupportPass => ({
  role: fill === 'interface' ? 'interface' : 'stand',
  fill,
  holding: 0,
  bottomMm: 2,
  topMm: 2.2,
  region,
  facesLayer,
})
const linesOf = ({ xyMm, starts }: ToolPaths) =>
  Array.from({ length: starts.length - 1 }, (_, p) =>
    Array.from({ length: starts[p + 1] - starts[p] }, (__, i): [number, number] => [
      xyMm[2 * (starts[p] + i)],
      xyMm[2 * (starts[p] + i) + 1],
    ]),
  )
const turned = (points: readonly (readonly [number, number])[]) => regionFromRings([points.flat()])
const around = (radius: (turn: number) => number) =>
  Array.from({ length: 180 }, (_, n): [number, number] => {
    const turn = (2 * Math.PI * n) / 180
    return [radius(turn) * Math.cos(turn), radius(turn) * Math.sin(turn)]
  })

describe('lines of stands without walls', () => {
  test('beyond the last line on either side a rim closes them, from its one end to its other', () => {
    const ten = turned(around(() => 10))
    const lines = linesOf(supportPaths(pass(ten, 'stand'), 0, engine, OPTIONS))
    const straight = lines.filter((line) => line.length === 2)
    const caps = lines.filter((line) => line.length > 2)
    const heights = straight.map(([[, y]]) => y).sort((a, b) => a - b)
    expect(heights.length).toBeGreaterThan(3)
    expect(caps).toHaveLength(2)
    for (const cap of caps) {
      const [[x1, y1], [x2, y2]] = [cap[0], cap.at(-1)!]
      const last = y1 > 0 ? heights.at(-1)! : heights[0]
      closeTo(y1, last, 1e-6)
      closeTo(y2, last, 1e-6)
      closeTo(x1, -x2, 1e-3)
      // It goes around the outside, half a line from the edge.
      expect(Math.max(...cap.map(([, y]) => Math.abs(y)))).toBeGreaterThan(10 - W / 2 - 0.01)
    }
  })

  test('what no line meets has a wall all around', () => {
    const small = turned(around(() => 0.8))
    const lines = linesOf(supportPaths(pass(small, 'stand'), 0, engine, OPTIONS))
    expect(lines).toHaveLength(1)
    expect(lines[0][0]).toEqual(lines[0].at(-1))
  })
})

test('lines joined at their ends keep as far from something round as those that are not', () => {
  const square = [-9, -9, 9, -9, 9, 9, -9, 9]
  const region = regionFromRings([
    square,
    around(() => 4)
      .toReversed()
      .flat(),
  ])
  const options = { ...OPTIONS, standLines: 'joined', standDensity: 0.3 } as const
  const lines = linesOf(supportPaths(pass(region, 'stand'), 0, engine, options))
  expect(lines.some((line) => line.length > 4)).toBe(true)
  const tooNear = lines.flatMap((line) =>
    line.slice(1).filter(([x, y], i) => {
      const middle = [(x + line[i][0]) / 2, (y + line[i][1]) / 2] as const
      return nearSides(region, ...middle, W / 2 - 0.025)
    }),
  )
  expect(tooNear).toEqual([])
})

test('on the bed as many lines lie inside a stand as around it, up to full; above nothing changes', () => {
  const square = regionFromRings([[-6, -6, 6, -6, 6, 6, -6, 6]])
  const round: SupportPass = { ...pass(square, 'rounds'), rounds: Float64Array.of(0, 0, 3) }
  const plasticMm2 = (of: SupportPass, footingLines: number) => {
    const lines = linesOf(supportPaths(of, 0, engine, { ...OPTIONS, standDensity: 0.02, footingLines }))
    const lengths = lines.flatMap((line) =>
      line.slice(1).map(([x, y], i) => Math.hypot(x - line[i][0], y - line[i][1])),
    )
    return W * lengths.reduce((sum, one) => sum + one, 0)
  }
  const first = (of: SupportPass): SupportPass => ({ ...of, bottomMm: 0, topMm: 0.2 })
  const upright = pass(square, 'stand')
  for (const lines of [2, 5]) {
    const rings = 12 ** 2 - (12 - 2 * lines * W) ** 2
    const mm2 = plasticMm2(first(upright), lines)
    expect(mm2).toBeGreaterThan(0.97 * rings)
    // And a stand line or two in what they leave.
    expect(mm2).toBeLessThan(rings + 2 * 12 * W)
  }
  closeTo(plasticMm2(first(upright), 20) / 144, 1, 0.03)
  closeTo(plasticMm2(first(round), 20) / (Math.PI * 9), 1, 0.06)
  for (const one of [upright, round]) expect(plasticMm2(one, 20)).toBe(plasticMm2(one, 0))
})

describe('lines as wide as what they fill', () => {
  // From 0.5 to 0.75 mm wide, around a curve that is never the same.
  const outer = around((turn) => 8 + 0.8 * Math.sin(3 * turn))
  const inner = around((turn) => 8 + 0.8 * Math.sin(3 * turn) - 0.62 - 0.11 * Math.cos(5 * turn))
  const band = () => regionFromRings([outer.flat(), inner.toReversed().flat()])
  // Steps of a slope on both of its sides.
  const stairs = () =>
    turned([
      [0.44, -0.36],
      [0.29, -0.26],
      [0.44, 0.02],
      [0.29, 0.14],
      [0.43, 0.38],
      [0.42, 0.8],
      [-0.34, 1.35],
      [-0.83, 0.38],
      [-0.62, 0.39],
      [-0.82, -0.01],
      [-0.61, 0],
      [-0.81, -0.39],
      [-0.6, -0.38],
      [-0.25, -0.47],
      [0.24, -0.79],
    ])
  test.each([
    ['a band', band, 0.9 * 2 * Math.PI * 8],
    ['stairs', stairs, 2.5],
  ])('%s narrower than two lines: its lines fill it and never leave it', (_, shape, leastMm) => {
    const region = shape()
    const laid = supportPaths(pass(region, 'interface'), 0, engine, OPTIONS)
    let lengthMm = 0
    for (const [p, line] of linesOf(laid).entries()) {
      const radius = (W * laid.flow[p]) / 2
      for (let i = 1; i < line.length; i++) {
        const [[ax, ay], [bx, by]] = [line[i - 1], line[i]]
        lengthMm += Math.hypot(bx - ax, by - ay)
        for (const t of [0, 0.5]) {
          const [x, y] = [ax + t * (bx - ax), ay + t * (by - ay)]
          expect(regionContains(region, x, y)).toBe(true)
          expect(nearSides(region, x, y, radius - 0.01)).toBe(false)
        }
      }
    }
    expect(lengthMm).toBeGreaterThan(leastMm)
  })
})

describe('a strip along a slope', () => {
  test('is filled by lines along it instead of a dot on every row, with the plastic that it takes', () => {
    // From 1 to 1.5 mm wide: between its rings there are 0.1 to 0.6 mm.
    const outer = around((turn) => 12 + 0.8 * Math.sin(3 * turn))
    const inner = around((turn) => 12 + 0.8 * Math.sin(3 * turn) - 1.25 - 0.25 * Math.cos(5 * turn))
    const strip = regionFromRings([outer.flat(), inner.toReversed().flat()])
    const areaMm2 = regionAreaMm2(strip)
    const plasticMm2 = (laid: ToolPaths) =>
      linesOf(laid).reduce((sum, line, p) => {
        const steps = line.slice(1).map(([x, y], i) => Math.hypot(x - line[i][0], y - line[i][1]))
        return sum + W * laid.flow[p] * steps.reduce((all, mm) => all + mm, 0)
      }, 0)
    for (const facesLayer of [10, 11]) {
      const laid = supportPaths(pass(strip, 'interface', facesLayer), 0, engine, OPTIONS)
      const lines = linesOf(laid)
      const begun = lines.filter(([[x, y]], p) => {
        const [endX, endY] = p > 0 ? lines[p - 1].at(-1)! : [NaN, NaN]
        return !(Math.hypot(x - endX, y - endY) < 1e-6)
      })
      // A hundred rows cross it.
      expect(begun.length).toBeLessThan(35)
      expect(plasticMm2(laid)).toBeGreaterThan(0.95 * areaMm2)
      expect(plasticMm2(laid)).toBeLessThan(1.03 * areaMm2)
    }
    // What is wider is filled across, as it was.
    const plate = supportPaths(pass(turned(around(() => 10)), 'interface'), 0, engine, OPTIONS)
    expect(linesOf(plate).filter((line) => line.length === 2).length).toBeGreaterThan(35)
  })
})

describe('what carries an interface', () => {
  const ten = turned(around(() => 10))
  test.each(['across', 'along'] as const)('lies square across its lines, laid %s', (interfaceDirection) => {
    const directionOf = (fill: Fill, facesLayer: number) => {
      const options = { ...OPTIONS, interfaceDirection }
      const lines = linesOf(supportPaths(pass(ten, fill, facesLayer), 0, engine, options))
      const [[ax, ay], [bx, by]] = lines.filter((line) => line.length === 2)[3]
      return [bx - ax, by - ay].map((mm) => mm / Math.hypot(bx - ax, by - ay))
    }
    for (const facesLayer of [10, 11]) {
      const [dense, touching] = [directionOf('dense', facesLayer), directionOf('interface', facesLayer + 1)]
      closeTo(dense[0] * touching[0] + dense[1] * touching[1], 0, 1e-6)
    }
  })

  test('lies slanted to both directions of crossed lines, and across the lines of the stand below', () => {
    const options = { ...OPTIONS, interfaceLines: 'crossed', interfaceSpacingMm: 0.5 } as const
    const directionsOf = (fill: Fill, level: number, standLines: 'separate' | 'crosswise') => {
      const lines = linesOf(supportPaths(pass(ten, fill, 10), level, engine, { ...options, standLines }))
      const straight = lines.filter((line) => line.length === 2)
      const degrees = straight.map(([[ax, ay], [bx, by]]) => (Math.atan2(by - ay, bx - ax) * 180) / Math.PI)
      return [...new Set(degrees.map((deg) => (Math.round(deg) + 360) % 180))].sort((a, b) => a - b)
    }
    for (const standLines of ['separate', 'crosswise'] as const)
      for (const level of [20, 21]) {
        const [dense] = directionsOf('dense', level, standLines)
        const [below] = directionsOf('stand', level - 1, standLines)
        expect((dense - below + 180) % 180).toBe(90)
        for (const deg of directionsOf('interface', level + 1, standLines))
          expect(Math.abs(dense - deg) % 90).toBe(45)
        expect(directionsOf('interface', level + 1, standLines)).toHaveLength(2)
      }
  })

  test('an interface covers of its middle what it is said to cover, lines that cross too', () => {
    const plate = regionFromRings([[0, 0, 80, 0, 80, 80, 0, 80]])
    for (const interfaceLines of ['straight', 'crossed'] as const)
      for (const interfaceSpacingMm of [0, 0.45, 1]) {
        const options = { ...OPTIONS, interfaceLines, interfaceSpacingMm }
        const lines = linesOf(supportPaths(pass(plate, 'interface'), 10, engine, options))
        const isCovered = (x: number, y: number) =>
          lines.some((line) =>
            line.some(([bx, by], i) => {
              const [ax, ay] = line[Math.max(0, i - 1)]
              const along =
                ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) /
                (bx - ax || by - ay ? (bx - ax) ** 2 + (by - ay) ** 2 : 1)
              const t = Math.min(1, Math.max(0, along))
              return Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay)) <= W / 2
            }),
          )
        let covered = 0
        for (let i = 0; i < 10_000; i++)
          if (isCovered(10 + ((i * 0.6180339887) % 1) * 60, 10 + ((i * 0.7548776662) % 1) * 60)) covered++
        closeTo(covered / 10_000, interfaceCover(options), 0.015)
      }
  })
})
