import { readFileSync, writeFileSync } from 'node:fs'
import { summaryJson } from '@tender/contract'
import { polygonEngine, solidEngine } from '@tender/core/node'
import { openMesh, write3mf } from '@tender/core/mesh'
import { createPlanner } from '@tender/core/plan'
import { DEFAULT_PLAN } from '@tender/core/decide'
import { planBodies } from '@tender/core/solid'
import { filamentOf } from '@tender/core/bench'
import { Command } from 'commander'
import { planFile } from './planFile'

type Options = { plan?: string; json?: boolean; out?: string; printDefaults?: boolean }

/** `tender plan part.stl`: what holding this part takes. */
export function planCommand(): Command {
  return new Command('plan')
    .description('plan how a part is held, and count what that costs')
    .argument('[part]', 'STL, OBJ or 3MF file; millimetres unless it says')
    .option('--plan <file>', 'plan file (JSON); everything it leaves out takes its default')
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

async function plan(file: string, options: Options): Promise<void> {
  const document = planFile(options.plan)
  const { mesh, notes } = openMesh(readFileSync(file))
  const polygons = await polygonEngine()
  const { summary, geometry } = await createPlanner(polygons).plan(file, mesh, document)
  const json = summaryJson(summary)
  const warnings = [
    ...notes.map((message) => ({ code: 'FILE_MENDED', severity: 'warning', message })),
    ...json.warnings,
  ]
  if (options.out) {
    const colour = (name: string) => filamentOf(document.filaments, name).colour
    const { partFilament, standFilament, interfaceFilament } = document.decisions
    const bodies = await planBodies(geometry, polygons, await solidEngine(), {
      part: colour(partFilament),
      stand: colour(standFilament),
      interface: colour(interfaceFilament),
    })
    writeFileSync(options.out, write3mf(document.name, bodies))
  }
  if (options.json) process.stdout.write(`${JSON.stringify({ ...json, warnings })}\n`)
  else process.stdout.write(`${inWords(json)}${warnings.map((warning) => `\n${warning.message}`).join('')}\n`)
}

function inWords(json: ReturnType<typeof summaryJson>): string {
  const minutes = Math.round(json.timeS / 60)
  const held = json.islands.filter((island) => island.held).length
  return [
    `${json.layers} layers, ${json.heightMm} mm tall; ${json.massG.toFixed(1)} g, ${json.wasteG.toFixed(1)} g of it thrown away; ${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}; ${json.swaps} swaps.`,
    ...json.contacts.map(
      (contact) =>
        `${contact.kind} underside from ${contact.zMm} mm: ${contact.areaMm2.toFixed(0)} of ${contact.wantedMm2.toFixed(0)} mm² held${contact.achievedGapMm !== null ? `, gap ${contact.achievedGapMm.toFixed(2)} mm` : ''}`,
    ),
    ...(json.islands.length > 0 ? [`${held} of ${json.islands.length} islands held.`] : []),
    ...json.filaments.map(
      (filament) =>
        `${filament.name}: ${filament.g.toFixed(1)} g, ${filament.m.toFixed(2)} m, ${filament.cost.toFixed(2)}`,
    ),
  ].join('\n')
}
