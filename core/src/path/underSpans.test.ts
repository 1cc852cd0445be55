import { expect, test } from '@jest/globals'
import { regionFromRings } from '../polygon'
import type { SupportPass } from '../stand'
import { checkPlastic } from '../testing'
import { PathWriter, type ToolPaths } from './toolPaths'
import { underSpans } from './underSpans'

const W = 0.45
const APART_MM = 1.7
const SPAN_MM = 5
const NO_PART = { layers: [], belowMm: 0.5 }

/** Upright lines beside each other, 24 mm long, the first at x. */
const upright = (x: number): ToolPaths => {
  const writer = new PathWriter()
  for (let n = 0; n < 5; n++)
    writer.add('stand', Float64Array.of(x + n * APART_MM, 0, x + n * APART_MM, 24), 0, 2, false)
  return writer.finish()
}
const ring = (low: number, high: number, y: number, top: number): ToolPaths => {
  const writer = new PathWriter()
  writer.add('interface', Float64Array.of(low, y, high, y, high, top, low, top), 0, 4, true)
  return writer.finish()
}
const stand: SupportPass = {
  role: 'stand',
  fill: 'dense',
  holding: 0,
  bottomMm: 0,
  topMm: 0.2,
  region: regionFromRings([[-1, -1, 8, -1, 8, 25, -1, 25]]),
  facesLayer: 0,
}
const interfaced: SupportPass = {
  ...stand,
  role: 'interface',
  fill: 'interface',
  bottomMm: 0.2,
  topMm: 0.4,
  region: regionFromRings([[0, 2, 6, 2, 6, 22, 0, 22]]),
}

/** How far lines of the second pass span over those of the first, told by a checker that reads lines. */
const spans = (passes: readonly SupportPass[], supportPaths: readonly ToolPaths[]) =>
  checkPlastic(
    { layers: [], hold: [], passes, supportPaths },
    { lineWidthMm: W, gapMm: 0.2, lowerGapMm: 0.2 },
  )

test('where a rim runs between two lines of a stand for farther than is trusted, one of its own lies under it', async () => {
  const passes = [stand, interfaced]
  // Its left side between the first two lines, its right one right beside the third: each 20 mm long.
  const lines = [upright(0), ring(0.85, 2 * APART_MM + 0.35, 2, 22)]
  const before = spans(passes, lines)
  expect(before.worstSpanMm).toBeGreaterThan(19)
  const [below, above] = await underSpans(passes, lines, NO_PART, W, SPAN_MM)
  expect(above).toBe(lines[1])
  expect(below.kinds).toHaveLength(5 + 2)
  const report = spans(passes, [below, above])
  expect(report.worstSpanMm).toBeLessThan(APART_MM)
  // They hardly lie on what was there.
  expect(report.doubledShare - before.doubledShare).toBeLessThan(0.01)
  // Asked again, it is the same list: what was worked out of it is known.
  const again = await underSpans(passes, lines, NO_PART, W, SPAN_MM)
  expect(again[0]).toBe(below)
})

test('what is trusted to span gets none, nor what reaches out of the stand; what is merely in the same walls gets one', async () => {
  const under = async (one: SupportPass, rim: ToolPaths) =>
    (await underSpans([stand, one], [upright(0), rim], NO_PART, W, SPAN_MM))[0].kinds.length - 5
  expect(await under(interfaced, ring(0.85, 2.55, 2, 5.5))).toBe(0)
  expect(await under(interfaced, ring(0.85, 2.55, 2, 8.5))).toBe(2)
  // Of what lies beyond the outline of a stand it can carry nothing.
  expect(await under(interfaced, ring(2.55, 8.2, 2, 22))).toBe(1)
  // The same outline is not enough: what fills a stand is too sparse for a line down the middle.
  expect(await under({ ...interfaced, region: stand.region }, ring(0.85, 2.55, 2, 22))).toBe(2)
})
