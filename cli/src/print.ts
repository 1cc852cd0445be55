import { closeSync, openSync, rmSync, writeSync } from 'node:fs'
import { plainPrint, planPrint } from '@tender/core/plan'
import { TenderError } from '@tender/core'
import type { Filament, Printer } from '@tender/core/bench'
import { bodyEngines } from './engines'
import { bedAs3mf } from '@tender/core/solid'
import {
  BED_ORDERS,
  bedPrint,
  createPathMeasurer,
  leavesPurge,
  measurePrint,
  toolsFor,
  writeGcode,
  type BedOrder,
  type BedPrint,
  type Loaded,
} from '@tender/core/print'
import { massGrams } from '@tender/core/units'
import { Command, InvalidArgumentError, Option } from 'commander'
import { factor, writeOutput } from './files'
import { plannedPart, type PlannedPart } from './plan'
import { counted, duration } from './words'

type Options = {
  plan?: string
  beside?: string[]
  order: BedOrder
  at?: (readonly [number, number])[]
  bodies?: string
  loaded?: string[]
  out: string
  json?: boolean
  scale?: number
}

/** `tender print part.stl --out job.gcode`: the plan as the printer takes it. */
export function printCommand(): Command {
  return new Command('print')
    .description('plan a part and write the whole print as G-code')
    .argument('<part>', 'STL, OBJ or 3MF file; millimetres unless it says')
    .requiredOption('--out <file>', 'where to write it')
    .option('--plan <file>', 'plan file (JSON); everything it leaves out takes its default')
    .option('--beside <files...>', 'more plans (JSON) for the same part: variants beside it on one bed')
    .addOption(
      new Option('--order <order>', 'variants grow together, or one is done before the next')
        .choices(BED_ORDERS)
        .default(BED_ORDERS[0]),
    )
    .option('--at <corners...>', 'where variants stand, as X,Y in mm of the corner nearest to zero', corner)
    .option('--bodies <file>', 'write the variants with their tags as bodies of one 3MF file, too')
    .option(
      '--loaded <filaments...>',
      'filaments by name, as they are loaded on nozzles or slots in their order; - where nothing is',
    )
    .option('--scale <factor>', 'times the coordinates of the file', factor)
    .option('--json', 'print what it takes as JSON')
    .action((part: string, options: Options) => print(part, options))
}

/** One place of several, as in "12,40". @throws InvalidArgumentError */
function corner(text: string, before: readonly (readonly [number, number])[] = []) {
  const [x, y, ...more] = text.split(',').map(Number)
  if (more.length > 0 || !Number.isFinite(x) || !Number.isFinite(y))
    throw new InvalidArgumentError(`“${text}” is not a place; write it like 12,40.`)
  return [...before, [x, y] as const]
}

/**
 * What is loaded where, from names; filaments that the print does not use keep theirs.
 * @throws TenderError VALUE_OUT_OF_RANGE for more than the printer takes
 */
function loadedFrom(
  names: readonly string[],
  slots: readonly Pick<Filament, 'id' | 'name'>[],
  { name: printer, loads }: Pick<Printer, 'name' | 'loads'>,
): Loaded {
  if (names.length > loads)
    throw new TenderError(
      'VALUE_OUT_OF_RANGE',
      `--loaded names ${counted(names.length, 'filament')}; ${printer} takes ${loads} at once.`,
    )
  return names.map((text) =>
    text === '-' ? null : (slots.find(({ id, name }) => text === name || text === id)?.id ?? text),
  )
}

/** Progress is told this often. */
const TELL_EVERY_MS = 1000

async function print(file: string, options: Options): Promise<void> {
  let told = Date.now()
  const tell = (text: string) => {
    if (Date.now() - told < TELL_EVERY_MS) return
    told = Date.now()
    process.stderr.write(`${text}\n`)
  }
  const { document, opened, result } = await plannedPart(file, options, (stage, share) =>
    tell(`${stage}: ${Math.round(100 * share)} %`),
  )
  const { printer } = document
  if (!options.beside?.length && (options.at || options.bodies || options.order !== BED_ORDERS[0]))
    throw new TenderError(
      'VALUE_OUT_OF_RANGE',
      '--order, --at and --bodies are for variants on one bed: name the other plans after --beside.',
    )
  const bed = options.beside?.length ? await withVariants({ document, result }, file, options) : null
  const planned = bed?.print ?? planPrint(document, result.groups, result.geometry)
  const loaded = loadedFrom(options.loaded ?? [], planned.slots, printer)
  const job = { ...planned, tools: toolsFor(planned.slots, loaded) }
  const places = bed?.places ?? []
  const measure = measurePrint(job, printer, createPathMeasurer())
  // Made before anything is laid out, so that a folder that is not there is told at once.
  writeOutput(options.out, '')
  const out = openSync(options.out, 'w')
  let bytes = 0
  try {
    for (const chunk of writeGcode(job, printer, measure)) {
      bytes += writeSync(out, chunk)
      tell(`written: ${(bytes / 1e6).toFixed(1)} MB`)
    }
  } catch (error) {
    // Half a print must not look like one.
    rmSync(options.out, { force: true })
    throw error
  } finally {
    closeSync(out)
  }
  const filaments = job.slots.map(({ name, densityGcm3 }, slot) => {
    const mm3 = measure.uses.reduce((sum, use) => sum + (use.slot === slot ? use.mm3 : 0), 0)
    return { name, tool: job.tools[slot], mm3: round(mm3), g: round(massGrams(mm3, densityGcm3)) }
  })
  const json = {
    file: options.out,
    bytes,
    layers: result.summary.layers,
    swaps: measure.swaps,
    timeS: round(measure.timeS),
    filaments,
    tower: job.tower
      ? {
          atMm: job.tower.atMm.map((mm, axis) => round(mm + job.zeroMm[axis])),
          sideMm: job.tower.sideMm,
          topMm: round(job.tower.topMm),
        }
      : null,
    ...(places.length > 0 && {
      variants: places.map(({ name, dots, atMm, sizeMm }) => ({
        name,
        dots,
        atMm: atMm.map(round),
        sizeMm: sizeMm.map(round),
      })),
    }),
    warnings: [
      ...opened.notes.map((message) => ({ code: 'FILE_MENDED', severity: 'warning', message })),
      ...result.summary.warnings.map(({ code, severity, message }) => ({ code, severity, message })),
      ...(leavesPurge(measure, printer)
        ? [
            {
              code: 'NOT_PURGED',
              severity: 'warning',
              message: `The plan purges at ${counted(measure.swaps, 'swap')}, and the swap block of ${printer.name} does not purge: let it push out {purgeLength} mm of filament where the printer may, or purge into a tower.`,
            },
          ]
        : []),
    ],
  }
  process.stdout.write(
    options.json
      ? `${JSON.stringify(json)}\n`
      : `${[
          `${(bytes / 1e6).toFixed(1)} MB, ${counted(json.layers, 'layer')}, ${counted(json.swaps, 'swap')}, ${duration(json.timeS)}; ${filaments.map(({ name, g }) => `${name} ${g.toFixed(1)} g`).join(', ')}.`,
          ...places.map(
            ({ name, dots, atMm }) =>
              `${counted(dots, 'dot')}: ${name}, at ${atMm.map((mm) => mm.toFixed(0)).join(', ')} mm.`,
          ),
          ...json.warnings.map(({ message }) => message),
        ].join('\n')}\n`,
  )
}

/**
 * A plan with variants beside it. @throws TenderError VALUE_OUT_OF_RANGE, and as plannedPart, bedPrint and
 * bedAs3mf do
 */
async function withVariants(
  first: Pick<PlannedPart, 'document' | 'result'>,
  file: string,
  { beside = [], scale, order, at, bodies }: Options,
): Promise<BedPrint> {
  const { printer } = first.document
  const variants = [first]
  for (const plan of beside) {
    const { document, result } = await plannedPart(file, { plan, scale })
    if (document.printer.name !== printer.name)
      throw new TenderError(
        'VALUE_OUT_OF_RANGE',
        `${document.name} is for ${document.printer.name}, ${first.document.name} for ${printer.name}: one bed has one printer.`,
      )
    variants.push({ document, result })
  }
  const bed = bedPrint(
    variants.map(({ document, result }) => ({
      name: document.name,
      print: plainPrint(document, result.groups, result.geometry),
    })),
    printer,
    { order, atMm: at },
  )
  if (bodies) writeOutput(bodies, await bedAs3mf(variants, bed, await bodyEngines()))
  return bed
}

const round = (value: number) => Number(value.toFixed(3))
