import { beforeAll, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { PLAIN_PRINTER } from '../bench'
import { newDocument, type Decisions, type NewDocument } from '../decide'
import { createPlanner, planPrint } from '../plan'
import type { PolygonEngine } from '../polygon'
import { writeGcode } from '../print'
import { boxes } from '../testing'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

/** A gate whose lintel spans 12 mm from left to right. */
const gate = boxes([
  { size: [8, 10, 10], at: [0, 0, 0] },
  { size: [8, 10, 10], at: [20, 0, 0] },
  { size: [28, 10, 3], at: [0, 0, 10] },
])
const SECTION = (Math.PI * 1.75 ** 2) / 4

type Line = {
  z: number
  from: [number, number]
  to: [number, number]
  mm3: number
  mmS: number
  fan: number
  row: number
}

/** Lines of a plan's file: nothing but its text is known here. */
async function linesOf(decisions: Partial<Decisions>, zones: NewDocument['zones'] = []): Promise<Line[]> {
  const document = newDocument({
    zones,
    decisions: { freeSpanMm: 20, fanPercent: 60, supportFanPercent: 60, ...decisions },
  })
  const { groups, geometry } = await createPlanner(engine).plan('gate', gate, document)
  const lines: Line[] = []
  let [x, y, z, mmS, fan] = [0, 0, 0, 0, 0]
  const text = [...writeGcode(planPrint(document, groups, geometry), PLAIN_PRINTER)].join('')
  text.split('\n').forEach((row, n) => {
    if (row.startsWith('M107')) fan = 0
    if (row.startsWith('M106')) fan = Number(/S(\d+)/.exec(row)![1])
    if (!/^G[01] /.test(row)) return
    const at = (axis: string) => new RegExp(` ${axis}(-?[\\d.]+)`).exec(row)?.[1]
    const to: [number, number] = [Number(at('X') ?? x), Number(at('Y') ?? y)]
    mmS = Number(at('F') ?? mmS * 60) / 60
    z = Number(at('Z') ?? z)
    if (Number(at('E') ?? 0) > 0 && (to[0] !== x || to[1] !== y))
      lines.push({ z, from: [x, y], to, mm3: Number(at('E')) * SECTION, mmS, fan, row: n })
    ;[x, y] = to
  })
  return lines
}
const BED = 110

test('what fills a part is tied from line to line, and never across a slot', async () => {
  // Two halves 1.2 mm apart, joined at one end: ends of fill lines on both sides are near each other.
  const slotted = boxes([
    { size: [40, 9.4, 6], at: [0, 0, 0] },
    { size: [40, 9.4, 6], at: [0, 10.6, 0] },
    { size: [4, 20, 6], at: [0, 0, 0] },
  ])
  const document = newDocument({ decisions: { fillDensity: 0.1, walls: 1, skinLayers: 1 } })
  const { geometry } = await createPlanner(engine).plan('slotted', slotted, document)
  let [across, corners] = [0, 0]
  for (const { xyMm, starts } of geometry.partPaths)
    for (let p = 0; p + 1 < starts.length; p++) {
      if (starts[p + 1] - starts[p] > 2) corners++
      for (let i = starts[p]; i + 1 < starts[p + 1]; i++) {
        const [x0, y0, x1, y1] = xyMm.subarray(2 * i, 2 * i + 4)
        // The slot lies along y = 0, from x = -16 on.
        if (y0 * y1 < 0 && x0 + ((x1 - x0) * y0) / (y0 - y1) > -15.5) across++
      }
    }
  expect(corners).toBeGreaterThan(20)
  expect(across).toBe(0)
})
/** Lines of the lintel's first layer whose middle is over the opening, walls left out. */
const over = (lines: readonly Line[]) =>
  lines.filter(({ z, from, to }) => {
    const [mx, my] = [(from[0] + to[0]) / 2 - BED, (from[1] + to[1]) / 2 - BED]
    return Math.abs(z - 10.2) < 0.01 && Math.abs(mx) < 5 && Math.abs(my) < 3.5
  })
const length = ({ from, to }: Line) => Math.hypot(to[0] - from[0], to[1] - from[1])

test('a free bridge is laid from carrier to carrier, at its own speed and cooling; nothing of it is missing or laid twice', async () => {
  const lines = await linesOf({ bridgeMmS: 20, bridgeFanPercent: 100 })
  const spanning = over(lines)
  expect(spanning.length).toBeGreaterThan(10)
  for (const line of spanning) {
    expect(Math.abs(line.from[1] - line.to[1])).toBeLessThan(0.01)
    // Both ends lie on the posts.
    expect(length(line)).toBeGreaterThan(12)
    expect(line.mmS).toBeCloseTo(20, 1)
    expect(line.fan).toBe(255)
  }
  const elsewhere = lines.filter(({ z }) => z > 10.3)
  expect(elsewhere.every(({ fan }) => fan === 153)).toBe(true)
  const layer = (all: readonly Line[]) =>
    all.filter(({ z }) => Math.abs(z - 10.2) < 0.01).reduce((sum, { mm3 }) => sum + mm3, 0)
  // 28 x 10 mm of solid layer.
  expect(Math.abs(layer(await linesOf({ fillDensity: 1 })) / (28 * 10 * 0.2) - 1)).toBeLessThan(0.05)
  // Held, it is no bridge: lines as anywhere.
  const held = over(await linesOf({ freeSpanMm: 0 }))
  expect(held.some(({ from, to }) => Math.abs(from[1] - to[1]) > 0.1)).toBe(true)
})

test('walls from the face or to it, and as many layers without fan as asked', async () => {
  const faceOf = async (wallsFrom: Decisions['wallsFrom']) => {
    const walls = (await linesOf({ wallsFrom })).filter(
      ({ z, from, to }) => Math.abs(z - 5) < 0.01 && from[0] === to[0],
    )
    const left = Math.min(...walls.map(({ from }) => from[0]))
    const row = (x: number) => walls.find(({ from }) => Math.abs(from[0] - x) < 0.05)!.row
    return row(left) - row(left + 0.45)
  }
  expect(await faceOf('outside')).toBeLessThan(0)
  expect(await faceOf('inside')).toBeGreaterThan(0)
  const uncooled = (await linesOf({ fanOffLayers: 3 })).filter(({ fan }) => fan === 0)
  expect(Math.max(...uncooled.map(({ z }) => z))).toBeCloseTo(0.6, 3)
})

test('walls begin outside of what has to look well', async () => {
  const front = { kind: 'box' as const, minMm: [-20, -8, 0] as const, maxMm: [40, 4.5, 9] as const }
  const starts = async (zones: NewDocument['zones']) => {
    const lines = (await linesOf({}, zones)).filter(({ z }) => z > 1 && z < 8)
    // A wall begins where the line before did not end.
    return lines.filter(
      ({ from }, i) =>
        i > 0 &&
        Math.hypot(from[0] - lines[i - 1].to[0], from[1] - lines[i - 1].to[1]) > 1e-3 &&
        lines[i].to[0] !== undefined,
    )
  }
  const inFront = (all: readonly Line[]) =>
    all.filter(({ from, to }) => from[1] - BED < -4.5 && (from[0] === to[0] || from[1] === to[1]))
  expect(inFront(await starts([])).length).toBeGreaterThan(10)
  const kept = await starts([
    { id: 'front', name: 'Front', kind: 'show', limitDeg: 0, shape: front },
  ] as unknown as NewDocument['zones'])
  expect(inFront(kept)).toEqual([])
})
