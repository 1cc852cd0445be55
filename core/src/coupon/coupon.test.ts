import { beforeAll, describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { strFromU8, unzipSync } from 'fflate'
import { plainFilament, PLAIN_PRINTER, type Printer } from '../bench'
import { TenderError } from '../errors'
import { meshBounds, meshEdges, meshFacts, type SolidEngine } from '../mesh'
import { polygonEngine, solidEngine } from '../../node'
import { boundsOf, regionAreaMm2, splitPieces, type PolygonEngine } from '../polygon'
import { createPathMeasurer, measurePrint, unknownWords, writeGcode, type Print } from '../print'
import { closeTo, readGcode } from '../testing'
import { COUPON_KINDS, FULL_COMPASS, STARTING_COUPONS, type Coupon } from '../trial'
import {
  buildCoupon,
  couponFile,
  couponStls,
  printCoupon,
  strokeMm,
  type BuiltCoupon,
  type CouponSize,
  type PrintAs,
} from '.'

let solids: SolidEngine
let polygons: PolygonEngine
beforeAll(async () => {
  solids = await solidEngine()
  polygons = await polygonEngine()
})
const size: CouponSize = { layerHeightMm: 0.2, lineWidthMm: 0.45, nozzleMm: 0.4, tileAreaMm2: 196 }
const chalk = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
const moss = plainFilament('Moss PETG', 'PETG', '#6d7f4b')
const build = (coupon: Coupon, changes: Partial<CouponSize> = {}, printer: Printer = PLAIN_PRINTER) =>
  buildCoupon(solids, coupon, { ...size, ...changes }, printer)
const print = (
  built: BuiltCoupon,
  printer: Printer = PLAIN_PRINTER,
  filaments: PrintAs['filaments'] = [chalk, moss],
  title = 'Coupon',
) =>
  printCoupon(
    built,
    polygons,
    { title, lineWidthMm: 0.45, speedMmS: 60, fanPercent: 100, filaments, tools: [0, 1] },
    printer,
  )
const measured = (print: Print, printer: Printer = PLAIN_PRINTER) => {
  const { uses, swaps } = measurePrint(print, printer, createPathMeasurer())
  const mm3 = [0, 1].map((slot) => uses.reduce((sum, use) => sum + (use.slot === slot ? use.mm3 : 0), 0))
  return { mm3, swaps }
}
const gcode = async (built: BuiltCoupon, printer: Printer = PLAIN_PRINTER) => {
  const printed = await print(built, printer)
  return { printed, text: [...writeGcode(printed, printer)].join('') }
}
const COUPONS: readonly Coupon[] = [
  ...COUPON_KINDS.map((kind) => STARTING_COUPONS[kind]),
  { ...STARTING_COUPONS.fan, directions: FULL_COMPASS },
  { ...STARTING_COUPONS.gap, spacingsMm: [0, 0.4] },
  { ...STARTING_COUPONS.purge, swaps: ['BA'] },
]

describe('coupons as solids', () => {
  test('every body is closed, lies inside the bed, and goes into 3MF and STL files', () => {
    for (const coupon of COUPONS) {
      const built = build(coupon)
      expect(built.bodies.length).toBeGreaterThan(0)
      for (const { mesh } of built.bodies) {
        expect(meshEdges(mesh).openCount).toBe(0)
        const { min, max } = meshBounds(mesh)
        expect(min[2]).toBeGreaterThanOrEqual(0)
        for (const axis of [0, 1]) {
          expect(min[axis]).toBeGreaterThan(7.9)
          expect(max[axis]).toBeLessThan(PLAIN_PRINTER.bedMm[axis] - 7.9)
        }
      }
      expect(Object.keys(unzipSync(couponFile('Coupon', built, [chalk, moss])))).toContain('3D/3dmodel.model')
      expect(couponStls(built).map(({ bytes }) => bytes.length)).toEqual(
        built.bodies.map(({ mesh }) => 84 + (50 * mesh.corners.length) / 3),
      )
    }
  })

  test('the gap between tile and interface in the 3MF file is the gap asked for, to a micrometre', () => {
    const gapsMm = [0, 0.03, 0.07, 0.115, 0.2, 0.333, 0.5]
    const built = build({ ...STARTING_COUPONS.gap, gapsMm })
    const model = strFromU8(unzipSync(couponFile('Ladder', built, [chalk, moss]))['3D/3dmodel.model'])
    const body = (name: string) =>
      [
        ...model
          .slice(model.indexOf(`name="${name}`, model.indexOf('<object')))
          .split('</mesh>')[0]
          .matchAll(/<vertex x="([^"]+)" y="[^"]+" z="([^"]+)"/g),
      ].map(([, x, z]) => [Number(x), Number(z)])
    const [part, touching, stand] = ['Part', 'Interface', 'Stand'].map(body)
    const left = Math.min(...part.map(([x]) => x))
    gapsMm.forEach((gap, i) => {
      const onTile = (vertices: number[][]) =>
        vertices.filter(([x]) => x > left + i * 18 - 1 && x < left + i * 18 + 15).map(([, z]) => z)
      const underside = Math.min(...onTile(part))
      const top = Math.max(...onTile(touching))
      expect(Math.abs(underside - top - gap)).toBeLessThan(0.001)
      // The interface stands on its stand without a gap.
      expect(Math.abs(Math.min(...onTile(touching)) - Math.max(...onTile(stand)))).toBeLessThan(0.001)
    })
  })

  test('arms lean by their angle: a layer steps out by h tan(angle)', () => {
    const built = build({ kind: 'fan', anglesDeg: [45], directions: ['east'] })
    const layers = built.pieces[0].layers
    const right = (k: number) => boundsOf(layers[k].region.xyMm).maxX
    // Past the foot disc, well up the arm.
    closeTo(right(30) - right(20), 10 * 0.2 * Math.tan(Math.PI / 4), 1e-3)
    const steep = build({ kind: 'fan', anglesDeg: [70], directions: ['west'] }).pieces[0].layers
    const left = (k: number) => boundsOf(steep[k].region.xyMm).minX
    closeTo(left(15) - left(20), 5 * 0.2 * Math.tan((70 * Math.PI) / 180), 2e-3)
  })

  test('bridges are as long as they say, and their lines run along them', async () => {
    const built = build({ kind: 'span', spansMm: [30] })
    const piers = splitPieces(built.pieces[0].layers[3].region)
      .map((pier) => boundsOf(pier.xyMm))
      .sort((a, b) => a.minX - b.minX)
    closeTo(piers[1].minX - piers[0].maxX, 30, 1e-3)
    const deck = (await print(built)).sweeps.find(
      (sweep) => sweep.bottomMm > 4.9 && sweep.piece === 'span:30',
    )!
    const { xyMm, starts } = deck.paths
    const lengths = Array.from({ length: starts[1] - 1 }, (_, i) => Math.abs(xyMm[2 * i + 2] - xyMm[2 * i]))
    expect(Math.max(...lengths)).toBeGreaterThan(40)
  })

  test('teeth of the second nozzle stand off by their shift along their axis, pads by theirs in height', () => {
    const built = build(STARTING_COUPONS.offset)
    const centre = (step: string, body: string) => {
      const piece = built.pieces.find((one) => one.step === step && one.body === body)!
      const { minX, maxX, minY, maxY } = boundsOf(piece.layers[0].region.xyMm)
      return [(minX + maxX) / 2, (minY + maxY) / 2, piece.layers.at(-1)!.topMm]
    }
    STARTING_COUPONS.offset.axes.forEach((axis, i) => {
      for (const shift of STARTING_COUPONS.offset.shiftsMm) {
        const [first, second] = ['part', 'second'].map((body) => centre(`${axis}:${shift}`, body))
        closeTo(second[i] - first[i], shift, 1e-5)
      }
    })
  })

  test('a strip holds exactly the volume between its mark and the one before', async () => {
    const { printed } = await gcode(build(STARTING_COUPONS.purge))
    const { volumesMm3 } = STARTING_COUPONS.purge
    volumesMm3.forEach((volume, i) => {
      for (const swap of ['AB', 'BA']) {
        const { paths } = printed.sweeps.find((sweep) => sweep.piece === `${swap}:${volume}`)!
        let length = 0
        for (let p = 0; p < paths.kinds.length; p++)
          for (let at = paths.starts[p] + 1; at < paths.starts[p + 1]; at++)
            length += Math.hypot(
              paths.xyMm[2 * at] - paths.xyMm[2 * at - 2],
              paths.xyMm[2 * at + 1] - paths.xyMm[2 * at - 1],
            )
        closeTo(length * 0.45 * 0.2, volume - (volumesMm3[i - 1] ?? 0), 1e-3)
      }
    })
    // First filament, swap, all strips, swap back, all strips, marks.
    expect(measured(printed).swaps).toBe(2)
    const steps = printed.sweeps.map((sweep) => sweep.piece).filter(Boolean)
    expect(steps).toEqual([...volumesMm3.map((v) => `AB:${v}`), ...volumesMm3.map((v) => `BA:${v}`)])
  })

  test('marks are at least one line wide, whatever the line', () => {
    for (const w of [0.3, 0.45, 0.8]) {
      expect(strokeMm(w)).toBeGreaterThanOrEqual(w)
      const built = build(STARTING_COUPONS.span, { lineWidthMm: w })
      const marks = built.pieces.filter((piece) => piece.step === null)
      expect(marks).toHaveLength(STARTING_COUPONS.span.spansMm.length)
      // Something of every stroke is left when half a line is taken off all around.
      for (const { layers } of marks)
        expect(regionAreaMm2(polygons.grow(layers[0].region, -w / 2))).toBeGreaterThan(0)
    }
  })

  test('more tiles than fit side by side go on in a further row', () => {
    const gapsMm = Array.from({ length: 25 }, (_, i) => i / 50)
    const { sizeMm, pieces } = build({ ...STARTING_COUPONS.gap, gapsMm })
    // Rows of eleven: 11 x 14 + 10 x 4 wide, three of them deep.
    closeTo(sizeMm[0], 194, 1e-3)
    closeTo(sizeMm[1], 50, 1e-3)
    expect(new Set(pieces.map((piece) => piece.step)).size).toBe(26)
  })

  test('whatever steps are asked for: a coupon of closed bodies on the bed, or a sentence', () => {
    const steps = (min: number, max: number) =>
      fc.uniqueArray(fc.double({ min, max, noNaN: true }), { minLength: 1, maxLength: 12 })
    const any: fc.Arbitrary<Coupon> = fc.oneof(
      fc.record({
        kind: fc.constant('fan' as const),
        anglesDeg: steps(0, 95),
        directions: fc.subarray([...FULL_COMPASS], { minLength: 1 }),
      }),
      fc.record({ kind: fc.constant('span' as const), spansMm: steps(0.5, 260) }),
      fc.record({
        kind: fc.constant('gap' as const),
        gapsMm: steps(-0.1, 2.2),
        spacingsMm: steps(0, 3).map((list) => list.slice(0, 3)),
        interfaceLayers: fc.integer({ min: 0, max: 13 }),
      }),
      fc.record({
        kind: fc.constant('purge' as const),
        volumesMm3: steps(0.5, 900),
        swaps: fc.constantFrom(['AB', 'BA'] as const, ['BA'] as const),
      }),
      fc.record({
        kind: fc.constant('offset' as const),
        shiftsMm: steps(-0.8, 0.8),
        axes: fc.constantFrom(['x', 'y', 'z'] as const, ['x'] as const),
      }),
    )
    let made = 0
    fc.assert(
      fc.property(
        any,
        fc.double({ min: 0.05, max: 0.35, noNaN: true }),
        fc.double({ min: 0.25, max: 0.9, noNaN: true }),
        (coupon, layerHeightMm, lineWidthMm) => {
          try {
            const { bodies, sizeMm } = build(coupon, { layerHeightMm, lineWidthMm })
            made++
            for (const { mesh } of bodies) expect(meshEdges(mesh).openCount).toBe(0)
            for (const side of sizeMm) expect(side).toBeLessThanOrEqual(220)
          } catch (error) {
            if (!(error instanceof TenderError)) throw error
            expect(error.message).toMatch(/^[A-Z"].*\.$/)
          }
        },
      ),
      { numRuns: 60, seed: 7 },
    )
    expect(made).toBeGreaterThan(10)
  })

  test('what cannot be made is refused with a sentence', () => {
    expect(() => build({ kind: 'span', spansMm: [10, 300] })).toThrow(
      /The coupon takes 3\d\d × \d+ × \d+ mm; 204 × 204 × 220 mm are free/,
    )
    expect(() => build({ kind: 'fan', anglesDeg: [], directions: ['any'] })).toThrow('at least one step')
    expect(() => build({ kind: 'fan', anglesDeg: [NaN], directions: ['any'] })).toThrow('A step is NaN')
    expect(() => build({ kind: 'gap', gapsMm: [0.1, 0.1], spacingsMm: [0], interfaceLayers: 3 })).toThrow(
      'the same',
    )
    expect(() => build({ ...STARTING_COUPONS.gap, gapsMm: [0.12] }, { tileAreaMm2: 9 })).toThrow(
      'no room for its mark',
    )
    expect(() => build({ kind: 'offset', shiftsMm: [-0.7, 0], axes: ['z'] })).toThrow('Use smaller shifts')
    expect(() =>
      build({
        ...STARTING_COUPONS.gap,
        gapsMm: Array.from({ length: 41 }, (_, i) => i / 100),
        spacingsMm: [0, 1, 2, 3, 4],
      }),
    ).toThrow('up to 200')
    expect(
      build({ kind: 'span', spansMm: [10, 300] }, {}, { ...PLAIN_PRINTER, bedMm: [400, 400] }).sizeMm[0],
    ).toBeGreaterThan(300)
  })
})

describe('coupons as G-code', () => {
  test('every move stays on the bed, plastic is that of the estimate, and nothing travels through what is printed', async () => {
    // Eight directions are laid like four, only longer.
    for (const coupon of COUPONS.filter((one) => one.kind !== 'fan' || one.directions.length === 4)) {
      const { printed, text } = await gcode(build(coupon))
      const read = readGcode(text, 1.75)
      expect(read.moves).toBeGreaterThan(200)
      expect(read.bounds.minX).toBeGreaterThanOrEqual(0)
      expect(read.bounds.minY).toBeGreaterThanOrEqual(0)
      expect(read.bounds.maxX).toBeLessThanOrEqual(PLAIN_PRINTER.bedMm[0])
      expect(read.bounds.maxY).toBeLessThanOrEqual(PLAIN_PRINTER.bedMm[1])
      const { mm3, swaps } = measured(printed)
      expect(Math.abs(read.mm3 / (mm3[0] + mm3[1]) - 1)).toBeLessThan(0.01)
      expect(read.lowTravels).toEqual([])
      expect(read.swaps).toBe(swaps)
    }
  })

  test('prints at the speed, layer height and line width of the trial, slower only on the bed', async () => {
    const { text } = await gcode(build(STARTING_COUPONS.fan))
    const read = readGcode(text, 1.75)
    expect([...read.printSpeeds].sort((a, b) => a - b)).toEqual([25, 60])
    expect([...read.heights].filter((z) => z < 1)).toEqual([0.2, 0.4, 0.6, 0.8])
    // E per mm of path = w h / (pi d2 / 4).
    closeTo(read.mm3PerMm, 0.45 * 0.2, 1e-3)
    expect(text).toContain('M106 S255')
  })

  test('absolute and relative extrusion say the same; the printer’s own blocks are filled in', async () => {
    const built = build(STARTING_COUPONS.gap)
    const relative = await gcode(built)
    const absolute = await gcode(built, {
      ...PLAIN_PRINTER,
      extrusion: 'absolute',
      startGcode: 'G28 ; warm {nozzle} on {bed}, {whatever}',
      endGcode: 'M84 ; off',
    })
    closeTo(readGcode(absolute.text, 1.75).mm3, readGcode(relative.text, 1.75).mm3, 0.2)
    expect(absolute.text).toContain('G28 ; warm 205 on 55, {whatever}')
    expect(absolute.text).toContain('M82')
    expect(absolute.text.trimEnd().endsWith('M84 ; off')).toBe(true)
    expect(unknownWords('M104 S{nozzle} {whatever}')).toEqual(['whatever'])
    expect(relative.text).toContain('M109 T1 S240')
  })

  test('a ladder of one filament needs no swap, and one of two needs two', async () => {
    const built = build(STARTING_COUPONS.gap)
    const both = measured(await print(built))
    expect(both.swaps).toBe(2)
    const alone = measured(await print(built, PLAIN_PRINTER, [chalk, chalk]))
    expect(alone.swaps).toBe(0)
    expect(alone.mm3[1]).toBe(0)
    // A solid interface of nine tiles: 14 x 14 x its height, but for the half lines at the ends.
    const volume = meshFacts(built.bodies.find((body) => body.name === 'Interface')!.mesh).volumeMm3
    const printed = both.mm3[1] - 2 * 40 * 0.45 * 0.2
    expect(printed / volume).toBeGreaterThan(0.93)
    expect(printed / volume).toBeLessThan(1.05)
  })

  test('the same coupon gives the same G-code, and a larger bed only moves it', async () => {
    const small = await gcode(build(STARTING_COUPONS.offset))
    expect((await gcode(build(STARTING_COUPONS.offset))).text).toBe(small.text)
    const wide: Printer = { ...PLAIN_PRINTER, bedMm: [300, 260] }
    const large = await gcode(build(STARTING_COUPONS.offset, {}, wide), wide)
    const [a, b] = [readGcode(small.text, 1.75), readGcode(large.text, 1.75)]
    // Lines lie on a lattice fixed to the origin, so a few begin elsewhere.
    closeTo(b.mm3, a.mm3, 1e-3 * a.mm3)
    closeTo(b.bounds.minX - a.bounds.minX, 40, 0.01)
    closeTo(b.bounds.maxY - a.bounds.maxY, 20, 0.01)
  })

  test('what would leave the bed is refused before a line of it is written', async () => {
    const printed = await print(build(STARTING_COUPONS.span), PLAIN_PRINTER, [chalk, moss], 'Coupon\nM112')
    const written = (printer: Printer) => [...writeGcode(printed, printer)].join('')
    expect(() => written({ ...PLAIN_PRINTER, bedMm: [100, 100] })).toThrow(
      'off the bed of Plain two-nozzle printer',
    )
    // A name cannot smuggle a command in.
    expect(written(PLAIN_PRINTER).split('\n')[0]).toBe('; Coupon M112')
  })
})
