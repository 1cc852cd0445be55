import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { plainFilament, PLAIN_PRINTER } from '../bench'
import { newDocument } from '../decide'
import { createPlanner, planPrint } from '../plan'
import type { PolygonEngine } from '../polygon'
import { createPathMeasurer, measurePrint, toolsFor, writeGcode } from '../print'
import { cone, table } from '../testing'
import { differencesFrom, differencesFromPlanned, gramsOf, GcodeReader, laidGaps, type ReadRules } from '.'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

const SECTION = (Math.PI * 1.75 ** 2) / 4
const rules: ReadRules = { ...PLAIN_PRINTER, diameterMm: 1.75, lineWidthMm: 0.45, swapS: 30 }
function readText(text: string, more: Partial<ReadRules> = {}) {
  const reader = new GcodeReader({ ...rules, ...more })
  for (const line of text.split('\n')) reader.take(line)
  return reader.finish()
}

describe('a plan’s own file, read back', () => {
  test.each([
    ['a table', table, 0.13, PLAIN_PRINTER],
    ['a funnel', cone(60, 6, 4), 0.2, PLAIN_PRINTER],
    ['a table and its prime tower', table, 0.13, { ...PLAIN_PRINTER, feed: 'changer', loads: 4 }],
    [
      'a table, purged by the swap block',
      table,
      0.13,
      { ...PLAIN_PRINTER, swapGcode: 'G0 X200 Y200 F9000\nT{tool}\nG1 E{purgeLength} F300' },
    ],
    [
      'the same, which draws back by itself, in absolute extrusion',
      table,
      0.13,
      {
        ...PLAIN_PRINTER,
        extrusion: 'absolute',
        swapGcode: 'T{tool}\nM83\nG1 E{purgeLength} F300\nG1 E-0.8\nG0 X9 Y9 F9000',
      },
    ],
  ] as const)(
    '%s: plastic, heights, swaps, time and gaps are those of the plan',
    async (_, mesh, upperGapMm, printer) => {
      const chalk = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
      const moss = plainFilament('Moss PETG', 'PETG', '#6d7f4b')
      const document = newDocument({
        printer,
        filaments: [chalk, moss],
        decisions: { upperGapMm, interfaceFilament: moss.id },
      })
      const result = await createPlanner(engine).plan('part', mesh, document)
      const planned = planPrint(document, result.groups, result.geometry)
      // Loaded the other way round than the plan uses them.
      const print = { ...planned, tools: toolsFor(planned.slots, [moss.id, chalk.id]) }
      const measure = measurePrint(print, printer, createPathMeasurer())
      const read = readText([...writeGcode(print, printer, measure)].join(''), {
        ...printer,
        swapS: printer.swapS,
      })
      const inBlocks = /purge/.test(printer.swapGcode) ? (['purge'] as const) : []
      for (const role of ['part', 'stand', 'interface', 'tower', ...inBlocks] as const) {
        const planned = measure.uses.reduce((sum, one) => sum + (one.role === role ? one.mm3 : 0), 0)
        // No drop that was drawn back lands on the print.
        expect(Math.abs((read.rolesMm3![role] ?? 0) - planned)).toBeLessThanOrEqual(0.002 * planned)
      }
      expect(read.tools.map(({ name }) => name)).toEqual([moss.name, chalk.name])
      // A plain swap block purges nothing, and says so elsewhere.
      const isWhole = printer.feed === 'changer' || /purge/.test(printer.swapGcode)
      for (const [i, g] of isWhole ? gramsOf(read, document).entries() : []) {
        const own = result.summary.estimate.filaments.find(({ id }) => id === [moss, chalk][i].id)!
        expect(Math.abs(g! - own.g)).toBeLessThan(0.002 * own.g)
      }
      expect(read.swaps).toBe(measure.swaps)
      // What the file lifts and draws back around a swap is within the swap's own time in the estimate: about
      // a second each.
      expect(Math.abs(read.timeS - measure.timeS)).toBeLessThan(0.01 * measure.timeS + 1.5 * measure.swaps)
      expect(read.heightsMm.at(-1)).toBeCloseTo(result.summary.heightMm, 3)
      const all = read.gaps.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)
      const asPlanned = read.gaps.filter(({ gapMm }) => Math.abs(gapMm - upperGapMm) <= 0.005)
      expect(asPlanned.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)).toBeGreaterThan(0.85 * all)
      expect(differencesFromPlanned(read, result.summary)).toEqual([])
      expect(differencesFrom(read, document, laidGaps(print))).toEqual([])
      // A last layer too narrow for a line is none that is missing; two are.
      const { heightMm } = result.summary
      const endsAfter = (layers: number) =>
        differencesFromPlanned(read, {
          ...result.summary,
          heightMm: heightMm + layers * document.decisions.layerHeightMm,
        })
      expect(endsAfter(1)).toEqual([])
      expect(endsAfter(2).join()).toMatch(/^It ends at [\d.]+ mm; the plan at/)
      // Of another plan of the part it is told what is laid otherwise.
      const denser = { ...document, decisions: { ...document.decisions, standDensity: 0.5, upperGapMm: 0.3 } }
      const { summary } = await createPlanner(engine).plan('part', mesh, denser)
      const told = differencesFromPlanned(read, summary).join(' ')
      expect(told).toMatch(/It lays [\d.]+ cm³ of stand; the plan/)
      expect(told).toMatch(/heights at which the plan’s supports end/)
      // Held against another plan, the gap is what differs, and its height is told.
      const other = { ...document, decisions: { ...document.decisions, upperGapMm: 0.3 } }
      expect(differencesFrom(read, other).join(' ')).toMatch(
        new RegExp(`gap of ${upperGapMm.toFixed(3)} mm, the lowest at .* the plan says 0\\.300 mm`),
      )
    },
  )
})

describe('files of other programs', () => {
  test('absolute and relative, inches, tools, what is drawn back, places set anew', () => {
    const absolute = readText(
      'G21\nG90\nM82\nG92 E0\nG1 X10 Y10 Z0.2 F3000\nG1 X20 E1\nG1 E-0.5\nG1 E1\nG1 X30 E2',
    )
    expect(absolute.tools).toEqual([{ tool: 0, lengthMm: 2, mm3: 2 * SECTION, name: null }])
    const relative = readText('G91\nG1 X10 Y10 Z0.2\nG1 X10 E1\nG1 E-1\nG1 E1\nG1 X10 E1')
    expect(relative.tools[0].lengthMm).toBeCloseTo(2, 9)
    expect(relative.boxMm).toEqual({ min: [10, 10, 0.2], max: [30, 10, 0.2] })
    const inches = readText('G20\nM83\nG1 X0 Y0 Z0.01\nG1 X1 E0.1')
    expect(inches.tools[0].lengthMm).toBeCloseTo(2.54, 9)
    expect(inches.boxMm!.max[0]).toBeCloseTo(25.4, 9)
    const two = readText('M83\nT0\nG1 X0 Y0 Z0.2\nG1 X5 E1\nT1\nG1 X9 E2\nT0\nG1 X0 E1')
    expect(two.tools.map(({ tool, lengthMm }) => [tool, lengthMm])).toEqual([
      [0, 2],
      [1, 2],
    ])
    expect(two.swaps).toBe(2)
    const shifted = readText('M83\nG1 X10 Y0 Z0.2\nG92 X0\nG1 X5 E1')
    expect(shifted.boxMm!.max[0]).toBeCloseTo(15, 9)
    const unknown = readText('G28\nM83\nG92 X5 Y5\nG1 Z0.2\nG1 X9 E1')
    expect(unknown.boxMm).toEqual({ min: [5, 5, 0.2], max: [9, 5, 0.2] })
    expect(absolute.rolesMm3).toBeNull()
  })

  test('no spaces between words, line numbers, checksums and remarks change nothing; an exponent is no word', () => {
    const spaced = readText('G21\nM83\nG92 E0\nT1\nG1 X10 Y-10 Z0.2 F3000\nG1 X20 E1.5\nG1 X.5 Y-3 E+2')
    expect(readText('g21\nM83\nG92E0\nT1\nG01X10Y-10Z0.2F3000\nG1X20E1.5\nG1X.5Y-3E+2')).toEqual(spaced)
    const tiny = readText('M83\nG1 X0 Y0 Z0.2\nG1 X1e1 Y1E1 E5e-1\nG1X0E5E-1')
    expect(tiny.tools[0].lengthMm).toBeCloseTo(1, 9)
    expect(tiny.boxMm).toEqual({ min: [0, 0, 0.2], max: [10, 10, 0.2] })
    const sent =
      'N1 G21*31\nN2M83*7\n(tool 1) G92 E0\nN4 T1*5\nN5 G1 X10 Y-10 (first) Z0.2 F3000*60\n' +
      'n6G1X20(over)E1.5*61\nN7 G1 X.5 Y-3 E+2 (open'
    expect(readText(sent)).toEqual(spaced)
    expect(() => readText('G1X1\nG1X12Abc')).toThrow(/Line 2: “X12ABC” is no number/)
  })

  test('arcs are as long and as wide as they are round; time follows speed and acceleration', () => {
    const circle = readText('M83\nG1 X20 Y10 Z0.2\nG3 X20 Y10 I-10 J0 E3')
    expect(circle.boxMm!.min[0]).toBeCloseTo(0, 1)
    expect(circle.boxMm!.max[1]).toBeCloseTo(20, 1)
    expect(circle.tools[0].lengthMm).toBeCloseTo(3, 6)
    // 100 mm at 50 mm/s from rest to rest: s / v + v / a.
    const straight = readText('M83\nG1 X0 Y0 Z0.2\nG1 X100 E1 F3000', { accelMmS2: 1000 })
    const nothing = readText('M83\nG1 X0 Y0 Z0.2', { accelMmS2: 1000 })
    expect(straight.timeS - nothing.timeS).toBeCloseTo(100 / 50 + 50 / 1000, 6)
    expect(readText('G1 X1 Y1\nG4 P1500\nG4 S2').timeS).toBeCloseTo(3.5, 9)
  })

  test('what is not understood is counted by name; what is no G-code is refused with its line', () => {
    expect(readText('G1 X1 Y1\nM12345\nM12345\nG1 X2').unknown).toEqual({ M12345: 2 })
    expect(() => readText('G1 X1\nG1 X\0')).toThrow(/Line 2 is not text/)
    expect(() => readText(`G1 X1\n${'x'.repeat(5000)}`)).toThrow(/Line 2 is 5000 characters long/)
    expect(() => readText('G1 X1\nG1 Xabc')).toThrow(/Line 2: “XABC” is no number/)
    expect(() => readText('solid table\nfacet normal 0 0 1')).toThrow(/Nothing in this file moves a nozzle/)
  })
})
