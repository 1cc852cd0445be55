import { extname } from 'node:path'
import { CouponFields, FilamentFields, issueSentence, PrinterFields } from '@tender/contract'
import { TenderError } from '@tender/core'
import { PLAIN_PRINTER, plainFilament, type Filament, type Printer } from '@tender/core/bench'
import { buildCoupon, couponFile, couponStls, printCoupon } from '@tender/core/coupon'
import { polygonEngine, solidEngine } from '@tender/core/node'
import { createPathMeasurer, measurePrint, writeGcode } from '@tender/core/print'
import { COUPON_KINDS, STARTING_COUPONS, stepsOf, type Coupon, type CouponKind } from '@tender/core/trial'
import { massGrams } from '@tender/core/units'
import { Argument, Command, InvalidArgumentError } from 'commander'
import { zipSync } from 'fflate'
import { z } from 'zod'
import { readJson, writeOutput } from './files'
import { counted } from './words'

/** What a coupon file may say; everything is optional. */
const CouponFile = z.strictObject({
  coupon: z.record(z.string(), z.unknown()).optional(),
  printer: PrinterFields.partial().optional(),
  filaments: z
    .array(FilamentFields.partial().extend({ name: z.string().min(1).max(80) }))
    .min(1)
    .max(2)
    .optional(),
  layerHeightMm: z.number().min(0.04).max(1.2).default(0.2),
  lineWidthMm: z.number().min(0.1).max(2.5).default(0.45),
  speedMmS: z.number().min(1).max(1000).optional(),
  fanPercent: z.number().min(0).max(100).default(100),
  tileAreaMm2: z.number().min(1).max(100_000).default(196),
})

type Options = { out?: string; json?: boolean; with?: string; steps?: number[] }

const numbers = (text: string): number[] => {
  const values = text.split(',').map((one) => (one.trim() === '' ? NaN : Number(one)))
  if (values.some((value) => !Number.isFinite(value)))
    throw new InvalidArgumentError('Write numbers with commas between them.')
  return values
}

const STEPS: Readonly<Record<CouponKind, string>> = {
  fan: 'anglesDeg',
  span: 'spansMm',
  gap: 'gapsMm',
  purge: 'volumesMm3',
  offset: 'shiftsMm',
}
const SWAPPED = plainFilament('Support PETG', 'PETG', '#6d7f4b')

/** `tender coupon gap --out coupon.gcode`: a test piece, as solids or ready to print. */
export function couponCommand(): Command {
  return new Command('coupon')
    .description('make a test piece as 3MF, STL (zipped) or G-code')
    .addArgument(new Argument('<kind>', 'what it asks').choices([...COUPON_KINDS]))
    .option('--out <file>', 'where to write it; .3mf, .zip or .gcode says how')
    .option('--steps <numbers>', 'angles, spans, gaps, volumes or shifts, with commas between', numbers)
    .option(
      '--with <file>',
      'JSON with coupon, printer, filaments, layerHeightMm, lineWidthMm, speedMmS, fanPercent, tileAreaMm2',
    )
    .option('--json', 'print what it takes as JSON')
    .action((kind: CouponKind, options: Options) => make(kind, options))
}

async function make(kind: CouponKind, options: Options): Promise<void> {
  const given = options.with ? readSettings(options.with) : CouponFile.parse({})
  const parsed = CouponFields.safeParse({
    ...STARTING_COUPONS[kind],
    ...given.coupon,
    ...(options.steps ? { [STEPS[kind]]: options.steps } : {}),
    kind,
  })
  if (!parsed.success)
    throw new TenderError(
      'VALUE_OUT_OF_RANGE',
      `The coupon cannot be made. ${issueSentence(parsed.error).message}`,
    )
  const coupon: Coupon = parsed.data
  const printer: Printer = {
    ...PLAIN_PRINTER,
    ...(kind === 'purge' ? { feed: 'changer' as const } : {}),
    ...given.printer,
  }
  const [first, second] = (given.filaments ?? []).map((filament): Filament => ({
    ...plainFilament(filament.name, filament.family ?? 'PLA', '#a5a8b4'),
    ...filament,
  }))
  const part = first ?? plainFilament('Part PLA', 'PLA', '#a5a8b4')
  const filaments: [Filament, Filament] = [
    part,
    kind === 'fan' || kind === 'span' ? part : (second ?? (first ? part : SWAPPED)),
  ]
  const size = {
    layerHeightMm: given.layerHeightMm,
    lineWidthMm: given.lineWidthMm,
    nozzleMm: printer.nozzleMm,
    tileAreaMm2: given.tileAreaMm2,
  }
  const built = buildCoupon(await solidEngine(), coupon, size, printer)
  const title = `Tender Bridge ${kind} coupon`
  const print = await printCoupon(
    built,
    await polygonEngine(),
    {
      title,
      lineWidthMm: size.lineWidthMm,
      speedMmS: given.speedMmS ?? (kind === 'gap' ? printer.interfaceMmS : printer.wallMmS),
      fanPercent: given.fanPercent,
      filaments,
      tools: [0, 1],
    },
    printer,
  )
  const measure = measurePrint(print, printer, createPathMeasurer())
  if (options.out) writeOutput(options.out, contentOf(options.out))
  const uses = filaments.flatMap((filament, slot) => {
    const mm3 = measure.uses.reduce((sum, use) => sum + (use.slot === slot ? use.mm3 : 0), 0)
    return mm3 > 0 ? [{ name: filament.name, mm3, g: massGrams(mm3, filament.densityGcm3) }] : []
  })
  if (options.json)
    process.stdout.write(
      `${JSON.stringify({ kind, steps: stepsOf(coupon).length, sizeMm: built.sizeMm, bodies: built.bodies.map(({ name }) => name), swaps: measure.swaps, timeS: Math.round(measure.timeS), filaments: uses })}\n`,
    )
  else
    process.stdout.write(
      `${kind}: ${stepsOf(coupon).length} steps, ${built.sizeMm.map((mm) => mm.toFixed(0)).join(' x ')} mm, about ${Math.round(measure.timeS / 60)} min, ${counted(measure.swaps, 'swap')}, ${uses.map((use) => `${use.name} ${use.g.toFixed(1)} g`).join(', ')}\n`,
    )

  function contentOf(file: string): Uint8Array | string {
    const form = extname(file).toLowerCase()
    if (form === '.3mf') return couponFile(title, built, filaments)
    if (form === '.gcode' || form === '.gco' || form === '.g')
      return [...writeGcode(print, printer, measure)].join('')
    if (form === '.zip')
      return zipSync(Object.fromEntries(couponStls(built).map(({ name, bytes }) => [`${name}.stl`, bytes])))
    if (form === '.stl') {
      const bodies = couponStls(built)
      if (bodies.length === 1) return bodies[0].bytes
      throw new TenderError(
        'VALUE_OUT_OF_RANGE',
        `This coupon has ${bodies.length} bodies, which one STL file cannot hold. Write a .3mf, or a .zip of STL files.`,
      )
    }
    throw new TenderError(
      'VALUE_OUT_OF_RANGE',
      `"${file}" ends in nothing that is written here; .3mf, .stl, .zip and .gcode are.`,
    )
  }
}

function readSettings(file: string): z.infer<typeof CouponFile> {
  const parsed = CouponFile.safeParse(readJson(file))
  if (!parsed.success)
    throw new TenderError(
      'VALUE_OUT_OF_RANGE',
      `The coupon file cannot be used. ${issueSentence(parsed.error).message}`,
    )
  return parsed.data
}
