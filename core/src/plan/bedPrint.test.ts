import { beforeAll, describe, expect, test } from '@jest/globals'
import { polygonEngine, solidEngine } from '../../node'
import { plainFilament } from '../bench'
import { newDocument, type Decisions } from '../decide'
import type { PolygonEngine } from '../polygon'
import { bodiesOf, meshBounds, meshEdges, meshOfBodies, openMesh } from '../mesh'
import { bedAs3mf } from '../solid'
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
  const result = await createPlanner(engine).plan('table', table, document)
  return { name, document, result, print: plainPrint(document, result.groups, result.geometry) }
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
      for (const axis of [0, 1]) {
        const along = paths.xyMm.filter((_, i) => i % 2 === axis)
        expect(along.reduce((a, b) => Math.min(a, b), Infinity)).toBeGreaterThanOrEqual(atMm[axis] - 1e-6)
        expect(along.reduce((a, b) => Math.max(a, b), -Infinity)).toBeLessThanOrEqual(
          atMm[axis] + sizeMm[axis] + 1e-6,
        )
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

  test('one by one, each is done before the next, and neither head nor bar ever meets what stands', async () => {
    const variants = [
      await variantOf('tall', { layerHeightMm: 0.25 }),
      await variantOf('gap 0.25', { upperGapMm: 0.25 }),
      await variantOf('gap 0.30', { upperGapMm: 0.3 }),
    ]
    const small = { ...printer, headAroundMm: 30, barAboveMm: 20 }
    const { print, places } = bedPrint(variants, small, { order: 'one by one' })
    const text = [...writeGcode(print, small, measured(print))].join('')
    expect(text.match(/^; step .*/gm)).toHaveLength(3)
    const standing: { place: (typeof places)[number]; topMm: number }[] = []
    const met: string[] = []
    let [x, y, z, lowest] = [NaN, NaN, 0, Infinity]
    let piece = ''
    let printedTo = 0
    for (const line of text.split('\n')) {
      if (line.startsWith('; step ')) {
        if (piece) standing.push({ place: places.find(({ name }) => name === piece)!, topMm: printedTo })
        piece = line.slice('; step '.length)
        printedTo = 0
      }
      if (!/^G[01] /.test(line) || !piece) continue
      const of = (letter: string, before: number) => {
        const found = new RegExp(` ${letter}(-?[\\d.]+)`).exec(line)
        return found ? Number(found[1]) : before
      }
      ;[x, y, z] = [of('X', x), of('Y', y), of('Z', z)]
      if (line.includes(' E')) printedTo = Math.max(printedTo, z)
      for (const { place, topMm } of standing) {
        // Nothing that stands reaches up to the bar, and the head is beside it or above it.
        if (topMm - z > 20) met.push(`the bar meets ${place.name}: ${line}`)
        const away = Math.max(
          place.atMm[0] - x,
          x - place.atMm[0] - place.sizeMm[0],
          place.atMm[1] - y,
          y - place.atMm[1] - place.sizeMm[1],
        )
        // At its own top it may still wipe.
        if (away >= 30 - 1e-3) lowest = Math.min(lowest, z)
        else if (z < topMm) met.push(`the head meets ${place.name}: ${line}`)
      }
    }
    expect(met).toEqual([])
    expect(standing).toHaveLength(2)
    expect(lowest).toBeLessThan(1)
    const read = readGcode(text, chalk.diameterMm)
    const together = bedPrint(variants, small).print
    expect(read.mm3 / readGcode([...writeGcode(together, small)].join(''), chalk.diameterMm).mm3).toBeCloseTo(
      1,
      4,
    )
    expect(() => bedPrint(variants, { ...small, barAboveMm: 5 }, { order: 'one by one' })).toThrow(
      /would be struck.*11.9 mm tall.*passes 5 mm.*by layer/,
    )
    expect(() => bedPrint(variants, { ...small, headAroundMm: 180 }, { order: 'one by one' })).toThrow(
      /180 mm apart, take/,
    )
  })

  test('they stand where they are put by hand, or it is told which stand in the way; the bodies of their file stand there too', async () => {
    const variants = [
      await variantOf('one', { upperGapMm: 0.2 }),
      await variantOf('two', { upperGapMm: 0.3 }),
    ]
    const atMm = [
      [12, 20],
      [130, 70],
    ] as const
    const laid = bedPrint(variants, printer, { atMm })
    for (const [n, { atMm: corner }] of laid.places.entries()) {
      expect(corner).toEqual(atMm[n])
      const own = laid.print.sweeps.filter(({ piece }) => piece === laid.places[n].name)
      const least = own.reduce(
        (min, { paths }) => paths.xyMm.reduce((m, v, i) => (i % 2 ? m : Math.min(m, v)), min),
        Infinity,
      )
      // The outermost line runs half its width inside.
      expect(least - corner[0]).toBeGreaterThanOrEqual(-1e-9)
      expect(least - corner[0]).toBeLessThan(0.5)
    }
    const at = (second: readonly [number, number]) => bedPrint(variants, printer, { atMm: [atMm[0], second] })
    expect(() => at([13, 22])).toThrow('one and two would stand in each other.')
    expect(() => at([200, 70])).toThrow(/two would leave the bed: it takes 200.0 to/)
    expect(() => at([NaN, 70])).toThrow(/would leave the bed/)
    expect(() => bedPrint(variants, printer, { atMm: [[1, 1]] })).toThrow(/given 1 places/)

    const file = await bedAs3mf(variants, laid, { polygons: engine, solids: await solidEngine() })
    const { mesh } = openMesh(file)
    const names = bodiesOf(mesh).map(({ name }) => name)
    expect(names).toEqual(
      ['one', 'two'].flatMap((name) =>
        ['Part', 'Stand', 'Interface', 'Tag'].map((body) => `${name}: ${body}`),
      ),
    )
    expect(meshEdges(mesh).openCount).toBe(0)
    bodiesOf(mesh).forEach(({ name }, b) => {
      const { min, max } = meshBounds(meshOfBodies(mesh, (body) => body === b)!)
      const {
        atMm: [x, y],
        sizeMm: [w, d],
      } = laid.places[name.startsWith('one') ? 0 : 1]
      // Outlines of bodies are those of the plastic: half a line wider than where lines run.
      expect([min[0] - x, min[1] - y, x + w - max[0], y + d - max[1]].every((room) => room > -0.26)).toBe(
        true,
      )
      expect(min[2]).toBeGreaterThan(-1e-9)
    })
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
    const moved = await variantOf('in Moss', {
      purgeWhere: 'tower',
      partFilament: moss.id,
      standFilament: moss.id,
      interfaceFilament: moss.id,
    })
    // Each is of one filament alone, but a swap lies between them.
    expect(() => bedPrint([towered, moved], printer, { order: 'one by one' })).toThrow(
      /prime tower of its own/,
    )
    expect(() => bedPrint([one, towered], printer)).toThrow(/purge into different places/)
  })
})
