import { createReadStream } from 'node:fs'
import {
  differencesFrom,
  differencesFromPlanned,
  GcodeReader,
  gramsOf,
  laidGaps,
  type ReadBack,
} from '@tender/core/readBack'
import { planPrint } from '@tender/core/plan'
import { Command } from 'commander'
import { factor, sizeOfFile } from './files'
import { plannedPart } from './plan'
import { planFile } from './planFile'
import { counted, duration } from './words'

type Options = { plan?: string; part?: string; scale?: number; json?: boolean }

/** `tender read job.gcode`: what a file for a printer really does. */
export function readCommand(): Command {
  return new Command('read')
    .description('read a G-code file back: plastic, heights, swaps, time, gaps')
    .argument('<file>', 'G-code, ours or another program’s')
    .option('--plan <file>', 'plan file (JSON) to hold it against')
    .option('--part <file>', 'the part it is a print of: what it lays is held against its plan')
    .option('--scale <factor>', 'times the coordinates of the part', factor)
    .option('--json', 'print the numbers as JSON')
    .action((file: string, options: Options) => read(file, options))
}

/** Progress is told this often. */
const TELL_EVERY_MS = 1000

async function read(file: string, options: Options): Promise<void> {
  const document = planFile(options.plan)
  const { printer, filaments, decisions } = document
  const found = await readFile(
    file,
    new GcodeReader({
      accelMmS2: printer.accelMmS2,
      cornerMmS: printer.cornerMmS,
      diameterMm: filaments[0].diameterMm,
      lineWidthMm: decisions.lineWidthMm,
      swapS: printer.swapS,
    }),
  )
  const json = readJson(found, options.plan ? gramsOf(found, document) : null)
  const planned = options.part ? (await plannedPart(options.part, options)).result : null
  const laid = planned && laidGaps(planPrint(document, planned.groups, planned.geometry))
  const differences = [
    ...(options.plan ? differencesFrom(found, document, laid) : []),
    ...(planned ? differencesFromPlanned(found, planned.summary) : []),
  ]
  process.stdout.write(
    options.json
      ? `${JSON.stringify({ ...json, differences })}\n`
      : `${[...inWords(json), ...differences].join('\n')}\n`,
  )
}

/** @throws TenderError FILE_MISSING, FILE_NOT_GCODE */
async function readFile(file: string, reader: GcodeReader): Promise<ReadBack> {
  const size = sizeOfFile(file)
  // Lines are cut before they are whole, so that a file without line ends is refused instead of held.
  let [bytes, told] = [0, Date.now()]
  let rest = ''
  for await (const chunk of createReadStream(file, { encoding: 'latin1' }) as AsyncIterable<string>) {
    bytes += chunk.length
    const lines = (rest + chunk).split(/\r?\n/)
    rest = lines.pop()!
    for (const line of lines) reader.take(line)
    if (rest.length > 1 << 16) reader.take(rest)
    if (Date.now() - told > TELL_EVERY_MS) {
      told = Date.now()
      process.stderr.write(`read: ${(bytes / 1e6).toFixed(0)} of ${(size / 1e6).toFixed(0)} MB\n`)
    }
  }
  if (rest !== '') reader.take(rest)
  return reader.finish()
}

const round = (value: number, digits = 4) => Number(value.toFixed(digits))

/** The numbers of a file, keys with their units. */
const readJson = (read: ReadBack, grams: readonly (number | null)[] | null) => ({
  lines: read.lines,
  layers: read.heightsMm.length,
  heightsMm: read.heightsMm,
  swaps: read.swaps,
  timeS: round(read.timeS, 1),
  boxMm: read.boxMm && {
    min: read.boxMm.min.map((v) => round(v, 3)),
    max: read.boxMm.max.map((v) => round(v, 3)),
  },
  tools: read.tools.map(({ tool, name, lengthMm, mm3 }, i) => ({
    tool,
    name,
    lengthMm: round(lengthMm, 2),
    mm3: round(mm3, 2),
    g: typeof grams?.[i] === 'number' ? round(grams[i]) : null,
    coldestC: read.coldestC[i],
  })),
  rolesMm3:
    read.rolesMm3 &&
    Object.fromEntries(Object.entries(read.rolesMm3).map(([role, mm3]) => [role, round(mm3, 2)])),
  gaps: read.gaps.map(({ gapMm, areaMm2, zMm }) => ({
    gapMm,
    areaMm2: round(areaMm2, 1),
    zMm: round(zMm, 3),
  })),
  unknown: read.unknown,
})

function inWords(json: ReturnType<typeof readJson>): string[] {
  const gaps = new Map<number, number>()
  for (const { gapMm, areaMm2 } of json.gaps) gaps.set(gapMm, (gaps.get(gapMm) ?? 0) + areaMm2)
  return [
    `${counted(json.layers, 'height')}, ${duration(json.timeS)}, ${counted(json.swaps, 'swap')}.`,
    ...json.tools.map(
      ({ tool, mm3, g, lengthMm }) =>
        `tool ${tool}: ${mm3.toFixed(0)} mm³, ${(lengthMm / 1000).toFixed(2)} m${g === null ? '' : `, ${g.toFixed(1)} g`}`,
    ),
    ...(json.rolesMm3
      ? [
          Object.entries(json.rolesMm3)
            .map(([role, mm3]) => `${role} ${mm3.toFixed(0)} mm³`)
            .join(', '),
        ]
      : ['No comment says what is part and what is support, so gaps are not known.']),
    ...[...gaps].map(([gapMm, areaMm2]) => `gap ${gapMm.toFixed(3)} mm under ${areaMm2.toFixed(0)} mm²`),
    ...Object.entries(json.unknown).map(
      ([command, times]) => `${command} is not understood (${times} times)`,
    ),
  ]
}
