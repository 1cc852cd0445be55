import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine } from '../../node'
import { plainFilament } from '../bench'
import { newDocument, type Decisions } from '../decide'
import type { PolygonEngine } from '../polygon'
import { bedPrint, createPathMeasurer, measurePrint, writeGcode } from '../print'
import { readGcode, table } from '../testing'
import { createPlanner, plainPrint } from '.'

let engine: PolygonEngine
beforeAll(async () => void (engine = await polygonEngine()))

const chalk = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
const moss = plainFilament('Moss PETG', 'PETG', '#6d7f4b')
const documentOf = (name: string, decisions: Partial<Decisions>) =>
  newDocument({ name, filaments: [chalk, moss], decisions: { interfaceFilament: chalk.id, ...decisions } })

async function variantOf(name: string, decisions: Partial<Decisions> = {}) {
  const document = documentOf(name, decisions)
  const { groups, geometry } = await createPlanner(engine).plan('table', table, document)
  return { name, print: plainPrint(document, groups, geometry) }
}
const { printer } = newDocument()
const measured = (print: Parameters<typeof measurePrint>[0]) =>
  measurePrint(print, printer, createPathMeasurer())
const mm3Of = (print: Parameters<typeof measurePrint>[0]) =>
  measured(print).uses.reduce((sum, { mm3 }) => sum + mm3, 0)

describe('variants on one bed', () => {
  test('two to six stand apart on the bed, by layer, each before its own tag; the file lays as much as they do alone, tags besides', async () => {
    const variants = [
      await variantOf('gap 0.20', { upperGapMm: 0.2 }),
      await variantOf('gap 0.25', { upperGapMm: 0.25 }),
      await variantOf('touched by Moss', { interfaceFilament: moss.id, upperGapMm: 0.05 }),
    ]
    const { print, places } = bedPrint(variants, printer)
    expect(places.map(({ dots }) => dots)).toEqual([1, 2, 3])
    // Nothing of one lies within another's place, and all of it on the bed.
    for (const { paths, piece } of print.sweeps) {
      const { atMm, sizeMm } = places.find(({ name }) => name === piece)!
      for (let i = 0; i < paths.xyMm.length; i += 2)
        for (const axis of [0, 1]) {
          expect(paths.xyMm[i + axis]).toBeGreaterThanOrEqual(atMm[axis] - 1e-6)
          expect(paths.xyMm[i + axis]).toBeLessThanOrEqual(atMm[axis] + sizeMm[axis] + 1e-6)
        }
    }
    for (const [i, a] of places.entries())
      for (const b of places.slice(i + 1))
        expect(
          [0, 1].some(
            (axis) =>
              a.atMm[axis] + a.sizeMm[axis] < b.atMm[axis] || b.atMm[axis] + b.sizeMm[axis] < a.atMm[axis],
          ),
        ).toBe(true)
    // By layer: nothing is laid lower than what was laid before.
    const tops = print.sweeps.map(({ topMm }) => topMm)
    expect(tops.every((top, i) => i === 0 || top > tops[i - 1] - 1e-3)).toBe(true)

    const text = [...writeGcode(print, printer, measured(print))].join('')
    const read = readGcode(text, chalk.diameterMm)
    const alone = variants.reduce((sum, one) => sum + mm3Of(one.print), 0)
    const swapsAlone = measured(variants[2].print).swaps
    const purged = print.purgeMm3[0][1]
    const laidAlone = alone - purged * swapsAlone
    // Plates of three layers and dots of two.
    const tags = places.reduce((sum, { dots }) => sum + (dots * 4 + 2) * 6 * 0.6 + dots * 2.4 * 2.4 * 0.4, 0)
    expect(Math.abs(read.mm3 / (laidAlone + tags) - 1)).toBeLessThan(0.02)
    expect(read.lowTravels).toEqual([])
    expect(read.swaps).toBe(swapsAlone)
    expect(read.bounds.minX).toBeGreaterThanOrEqual(0)
    expect(read.bounds.maxX).toBeLessThanOrEqual(printer.bedMm[0])
  })

  test('what cannot go together is told why: too many for the bed, other lines, other cooling, one name twice', async () => {
    const one = await variantOf('one')
    const small = { ...printer, bedMm: [40, 40] as const }
    expect(() => bedPrint([one, { ...one, name: 'two' }], small)).toThrow(/the bed has 40 by 40/)
    expect(() => bedPrint([one], printer)).toThrow(/Two to 6/)
    expect(() => bedPrint([one, one], printer)).toThrow(/same name/)
    expect(() =>
      bedPrint([one, { name: 'wide', print: { ...one.print, lineWidthMm: 0.6 } }], printer),
    ).toThrow(/one width/)
    const cool = await variantOf('cool', { fanPercent: 40 })
    expect(() => bedPrint([one, cool], printer)).toThrow(/cooled differently/)
    const bridged = await variantOf('bridged', { bridgeMmS: 40 })
    expect(() => bedPrint([one, bridged], printer)).toThrow(/cooled differently/)
    const towered = await variantOf('towered', { purgeWhere: 'tower' })
    expect(() => bedPrint([one, towered], printer)).toThrow(/purge into different places/)
  })
})
