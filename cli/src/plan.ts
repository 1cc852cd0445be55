import { releaseJson, summaryJson, weighedJson } from '@tender/contract'
import { DEFAULT_PLAN } from '@tender/core/decide'
import { polygonEngine } from '@tender/core/node'
import { createPlanner, planRelease, UNHELD_WORDS, type PlanResult, type StageName } from '@tender/core/plan'
import { planAs3mf } from '@tender/core/solid'
import type { UnheldReason } from '@tender/core/stand'
import { correctedGrams } from '@tender/core/takeOff'
import { Command } from 'commander'
import { beside, bodyEngines } from './engines'
import { comingOf, factor, openPart, writeOutput, type OpenedPart } from './files'
import { planFile } from './planFile'
import { counted, duration } from './words'

type Options = { plan?: string; json?: boolean; out?: string; printDefaults?: boolean; scale?: number }

/** `tender plan part.stl`: what holding this part takes. */
export function planCommand(): Command {
  return new Command('plan')
    .description('plan how a part is held, and count what that costs')
    .argument('[part]', 'STL, OBJ or 3MF file; millimetres unless it says')
    .option('--plan <file>', 'plan file (JSON); everything it leaves out takes its default')
    .option('--scale <factor>', 'times the coordinates of the file', factor)
    .option('--json', 'print the numbers as JSON')
    .option('--out <file>', 'write part, stand and interface as bodies of one 3MF file')
    .option('--print-defaults', 'print the whole plan that an empty plan file stands for')
    .action(async (part: string | undefined, options: Options, command: Command) => {
      if (options.printDefaults)
        return void process.stdout.write(`${JSON.stringify(DEFAULT_PLAN, null, 2)}\n`)
      if (!part) return command.error('Name the file to plan, or ask for --print-defaults.')
      await plan(part, options)
    })
}

export type PlannedPart = {
  readonly document: ReturnType<typeof planFile>
  readonly opened: OpenedPart
  readonly result: PlanResult
}

/**
 * Opens a file and plans it.
 * @throws TenderError as openPart, planFile and the planner do
 */
export async function plannedPart(
  file: string,
  options: Pick<Options, 'plan' | 'scale'>,
  onStage?: (stage: StageName, share: number) => void,
): Promise<PlannedPart> {
  const document = planFile(options.plan)
  const opened = openPart(file, options.scale)
  const planner = createPlanner(await polygonEngine(), beside.trace)
  const result = await comingOf(opened, () => planner.plan(file, opened.mesh, document, onStage))
  return { document, opened, result }
}

async function plan(file: string, options: Options): Promise<void> {
  const { document, opened, result } = await plannedPart(file, options)
  const { summary } = result
  const json = summaryJson(summary)
  const release = releaseJson(planRelease(document, result, await polygonEngine()))
  const weighed = weighedJson(correctedGrams(summary.estimate, document.learnt))
  const warnings = [
    ...opened.notes.map((message) => ({ code: 'FILE_MENDED', severity: 'warning', message })),
    ...json.warnings,
  ]
  if (options.out) {
    const { file: bytes, withoutPart } = await planAs3mf({ document, result }, await bodyEngines())
    if (withoutPart)
      warnings.push({
        code: 'PART_LEFT_OUT',
        severity: 'warning',
        message: bytes
          ? `The part is open, and a 3MF file may only hold closed solids: "${options.out}" holds its stands alone. Bring the part in from its own file, at the same place.`
          : `The part is open, and a 3MF file may only hold closed solids: nothing was written.`,
      })
    if (bytes) writeOutput(options.out, bytes)
  }
  if (options.json) process.stdout.write(`${JSON.stringify({ ...json, release, weighed, warnings })}\n`)
  else
    process.stdout.write(
      `${inWords(json)}${weighed ? `\nBy what was weighed of other prints: ${weighed.massG.toFixed(1)} g, nine times in ten ${weighed.lowG.toFixed(1)} to ${weighed.highG.toFixed(1)}.` : ''}${release.stands.map((stand) => `\n${offInWords(stand)}`).join('')}${warnings.map((warning) => `\n${warning.message}`).join('')}\n`,
    )
}

/** How one stand comes off. */
function offInWords(stand: ReturnType<typeof releaseJson>['stands'][number]): string {
  const { atMm, verdict, wayOut, pieces, reachMm, reasons } = stand
  const how = wayOut ?? (verdict === 'locked in' ? '' : pieces === null ? '(crumbs)' : `(${pieces})`)
  return `stand at ${atMm.map((value) => value.toFixed(0)).join(', ')} mm: ${`${verdict} ${how}`.trim()}, reached by a tool up to ${Math.min(99, reachMm).toFixed(1)} mm wide${reasons.map((reason) => `; ${reason}`).join('')}`
}

/** Grams are told to a tenth; what is less is not nothing. */
const thrownAway = (wasteG: number): string =>
  wasteG >= 0.05 ? `${wasteG.toFixed(1)} g` : wasteG > 0 ? 'less than 0.1 g' : 'none'

function inWords(json: ReturnType<typeof summaryJson>): string {
  const held = json.islands.filter((island) => island.held).length
  return [
    `${counted(json.layers, 'layer')}, ${json.heightMm} mm tall; ${json.massG.toFixed(1)} g, ${thrownAway(json.wasteG)} of it thrown away; ${duration(json.timeS)}; ${counted(json.swaps, 'swap')}.`,
    ...json.contacts.map((contact) => {
      const unheld = Object.entries(contact.unheldMm2).filter(([, mm2]) => mm2 >= 0.5)
      return `${contact.kind} underside from ${contact.zMm} mm: ${contact.areaMm2.toFixed(0)} of ${contact.wantedMm2.toFixed(0)} mm² held${contact.achievedGapMm !== null ? `, gap ${contact.achievedGapMm.toFixed(2)} mm` : ''}${unheld.map(([why, mm2]) => `; ${mm2.toFixed(0)} mm² ${UNHELD_WORDS[why as UnheldReason]}`).join('')}`
    }),
    ...(json.islands.length > 0 ? [`${held} of ${counted(json.islands.length, 'island')} held.`] : []),
    ...json.filaments.map(
      (filament) =>
        `${filament.name}: ${filament.g.toFixed(1)} g, ${filament.m.toFixed(2)} m, ${filament.cost.toFixed(2)}`,
    ),
  ].join('\n')
}
