import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../../node'
import { PLAIN_PRINTER, plainFilament } from '../../bench'
import { newDocument, type Decisions } from '../../decide'
import { createPlanner, plainPrint, planPrint } from '../../plan'
import type { PolygonEngine } from '../../polygon'
import { table } from '../../testing'
import { bedPrint, createPathMeasurer, measurePrint, writeGcode, type Print } from '..'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

const chalk = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
const moss = plainFilament('Moss PETG', 'PETG', '#6d7f4b')
const changer = { ...PLAIN_PRINTER, feed: 'changer' as const, loads: 4 }
const SECTION = (Math.PI * 1.75 ** 2) / 4

async function planned(decisions: Partial<Decisions>, printer: typeof changer = changer) {
  const document = newDocument({
    printer,
    filaments: [chalk, moss],
    decisions: { purgeMm3: 120, purgeAwayMm3: 60, ...decisions },
  })
  const result = await createPlanner(engine).plan('table', table, document)
  const { groups, geometry, summary } = result
  return {
    document,
    summary,
    print: planPrint(document, groups, geometry),
    plain: plainPrint(document, groups, geometry),
  }
}

type Line = { tool: number; role: string; z: number; mm3: number; ends: [number, number][] }

/** Lines of a file with what their comments say they are for; nothing but its text is known here. */
function linesOf(print: Print): { lines: Line[]; text: string } {
  const text = [...writeGcode(print, changer)].join('')
  const lines: Line[] = []
  let [x, y, z, tool] = [NaN, NaN, 0, -1]
  let role = ''
  for (const row of text.split('\n')) {
    role = /^; (part|stand|interface|footing|brim|tower),/.exec(row)?.[1] ?? role
    if (/^T\d/.test(row)) tool = Number(row.slice(1))
    if (!/^G[01] /.test(row)) continue
    const at = (axis: string) => {
      const found = new RegExp(` ${axis}(-?[\\d.]+)`).exec(row)
      return found ? Number(found[1]) : undefined
    }
    const to: [number, number] = [at('X') ?? x, at('Y') ?? y]
    const pushed = at('E') ?? 0
    if (pushed > 0 && Math.hypot(to[0] - x, to[1] - y) > 0)
      lines.push({ tool, role, z: at('Z') ?? z, mm3: pushed * SECTION, ends: [[x, y], to] })
    ;[x, y] = to
    z = at('Z') ?? z
  }
  return { lines, text }
}

/** What is laid after each swap before a line that must be clean. */
function laidBeforeClean(lines: readonly Line[], dirty: (line: Line) => boolean) {
  const found: { tool: number; mm3: number }[] = []
  let counting = false
  lines.forEach((line, i) => {
    if (i > 0 && line.tool !== lines[i - 1].tool) {
      found.push({ tool: line.tool, mm3: 0 })
      counting = true
    }
    if (!dirty(line)) counting = false
    if (counting) found.at(-1)!.mm3 += line.mm3
  })
  return found
}

const sumOf = (lines: readonly Line[], role: string) =>
  lines.reduce((sum, line) => sum + (line.role === role ? line.mm3 : 0), 0)

describe('a prime tower, measured on the file', () => {
  test('takes each direction’s purge before anything else is laid, stands by itself beside the rest, and ends with the last swap', async () => {
    const { print, summary } = await planned({})
    const { lines } = linesOf(print)
    const measure = measurePrint(print, changer, createPathMeasurer())
    expect(measure.swaps).toBeGreaterThan(3)
    for (const { tool, mm3 } of laidBeforeClean(lines, ({ role }) => role === 'tower')) {
      const wanted = print.slots[tool].id === chalk.id ? 120 : 60
      expect(mm3).toBeGreaterThan(0.995 * wanted)
    }
    for (const role of ['part', 'stand', 'interface', 'tower'] as const)
      expect(Math.abs(sumOf(lines, role) / summary.estimate.roles[role].mm3 - 1)).toBeLessThan(0.005)
    expect(summary.estimate.roles.purge.mm3).toBe(0)

    const tower = lines.filter(({ role }) => role === 'tower')
    const heights = [...new Set(tower.map(({ z }) => Number(z.toFixed(3))))].toSorted((a, b) => a - b)
    // No height is left out, and none lies above the last swap by more than a layer.
    heights.forEach((z, i) => expect(z).toBeCloseTo(0.2 * (i + 1), 3))
    const lastSwap = lines.findLast((line, i) => i > 0 && line.tool !== lines[i - 1].tool)!
    expect(heights.at(-1)).toBeLessThan(lastSwap.z + 0.2)
    const { sideMm } = summary.purges.tower!
    const spread = (of: readonly Line[], axis: 0 | 1) => {
      const all = of.flatMap(({ ends }) => ends.map((end) => end[axis]))
      return [Math.min(...all), Math.max(...all)]
    }
    const above = tower.filter(({ z }) => z > 0.3)
    for (const axis of [0, 1] as const) {
      const [low, high] = spread(above, axis)
      expect(high - low + 0.45).toBeCloseTo(sideMm, 2)
    }
    expect(sideMm).toBeGreaterThanOrEqual(heights.at(-1)! / 7)
    // Every height has its whole wall, so that the next one has something to stand on.
    for (const z of heights)
      expect(
        tower.filter((line) => Math.abs(line.z - z) < 1e-3).reduce((sum, { mm3 }) => sum + mm3, 0),
      ).toBeGreaterThan(0.98 * 4 * (sideMm - 0.45) * 0.45 * 0.2)
    const [, right] = spread(
      lines.filter(({ role }) => role !== 'tower'),
      0,
    )
    expect(spread(tower, 0)[0] - right).toBeGreaterThan(3.5)
    const everything = [...spread(lines, 0), ...spread(lines, 1)]
    expect(Math.min(...everything)).toBeGreaterThan(0)
    expect(Math.max(...everything)).toBeLessThan(220)
  })

  test('stands and fill that are printed anyway take leftovers first: less goes to the tower, and nothing that must be clean comes sooner', async () => {
    const into = async (purgeInto: Decisions['purgeInto']) => {
      const { print, summary } = await planned({
        purgeInto,
        standFilament: moss.id,
        skinLayers: 1,
        fillDensity: 0.4,
      })
      return { print, summary, ...linesOf(print) }
    }
    const nothing = await into('nothing')
    const stands = await into('stands')
    const fill = await into('fill')
    expect(sumOf(stands.lines, 'tower')).toBeLessThan(sumOf(nothing.lines, 'tower'))
    expect(fill.summary.purges.towerMm3).toBeLessThan(stands.summary.purges.towerMm3)
    // The same part and stands are laid, in another order.
    for (const role of ['part', 'stand', 'interface'])
      expect(Math.abs(sumOf(fill.lines, role) / sumOf(nothing.lines, role) - 1)).toBeLessThan(1e-3)
    for (const { tool, mm3 } of laidBeforeClean(
      stands.lines,
      ({ role }) => role === 'tower' || role === 'stand',
    ))
      expect(mm3).toBeGreaterThan(0.995 * (stands.print.slots[tool].id === chalk.id ? 120 : 60))
    const { laidAnywayMm3, towerMm3, chuteMm3 } = fill.summary.purges
    const wanted = (fill.print.purged ?? []).reduce((sum, one) => sum + one.wantedMm3, 0)
    expect(laidAnywayMm3 + towerMm3 + chuteMm3).toBeCloseTo(wanted, 6)
  })

  test('stands where it is put; in the way or without room it is told', async () => {
    const codes = (summary: { warnings: readonly { code: string }[] }) =>
      summary.warnings.map(({ code }) => code)
    const { tower } = (await planned({})).summary.purges
    const away = await planned({ towerAtMm: [tower!.atMm[0] + 12, tower!.atMm[1] + 20] })
    expect(away.summary.purges.tower!.atMm).toEqual([tower!.atMm[0] + 12, tower!.atMm[1] + 20])
    expect(codes(away.summary)).not.toContain('TOWER_IN_THE_WAY')
    const inside = await planned({ towerAtMm: [0, 0] })
    expect(codes(inside.summary)).toContain('TOWER_IN_THE_WAY')
    expect(inside.summary.purges.tower!.atMm).toEqual(tower!.atMm)
    const small = await planned({}, { ...changer, bedMm: [52, 52] })
    expect(codes(small.summary)).toContain('TOWER_NO_ROOM')
    expect(small.summary.purges).toMatchObject({ tower: null, towerMm3: 0 })
    expect(small.summary.estimate.roles.purge.mm3).toBeGreaterThan(0)
  })

  test('variants on one bed share one', async () => {
    const [a, b] = [await planned({}), await planned({ upperGapMm: 0.25 })]
    const { print, places } = bedPrint(
      [
        { name: 'a', print: a.plain },
        { name: 'b', print: b.plain },
      ],
      changer,
    )
    const { lines } = linesOf(print)
    for (const { mm3 } of laidBeforeClean(lines, ({ role }) => role === 'tower'))
      expect(mm3).toBeGreaterThan(0.995 * 60)
    const tower = lines.filter(({ role, z }) => role === 'tower' && z > 0.3).flatMap(({ ends }) => ends)
    for (const { atMm, sizeMm } of places)
      expect(
        tower.every(
          ([x, y]) => x < atMm[0] || y < atMm[1] || x > atMm[0] + sizeMm[0] || y > atMm[1] + sizeMm[1],
        ),
      ).toBe(true)
    expect(new Set(tower.map(([x]) => Math.round(x / 100))).size).toBe(1)
  })
})
