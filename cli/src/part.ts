import { filamentOf } from '@tender/core/bench'
import { TenderError } from '@tender/core'
import { polygonEngine, solidEngine } from '@tender/core/node'
import { meshFacts, write3mf, writeStl } from '@tender/core/mesh'
import { createPlanner } from '@tender/core/plan'
import { judgeOptionsOf, partBody } from '@tender/core/decide'
import { solidOfPasses } from '@tender/core/solid'
import {
  hullFaces,
  paretoBest,
  searchPoses,
  shortlist,
  standingOf,
  standingSentence,
} from '@tender/core/pose'
import { relieve } from '@tender/core/relief'
import { overlapExtent, slicedVolumeMm3 } from '@tender/core/slice'
import { massGrams } from '@tender/core/units'
import { Command } from 'commander'
import { comingOf, factor, openPart, writeOutput } from './files'
import { planFile } from './planFile'
import { counted } from './words'

type Common = { plan?: string; json?: boolean; scale?: number }
const round = (value: number, digits = 3) => Number(value.toFixed(digits))
const print = (options: Common, json: object, words: readonly string[]) =>
  process.stdout.write(`${options.json ? JSON.stringify(json) : words.join('\n')}\n`)
const reading = (command: Command) =>
  command
    .argument('<part>', 'STL, OBJ or 3MF file')
    .option('--plan <file>', 'plan file (JSON) with limits, pose and zones')
    .option('--scale <factor>', 'times the coordinates of the file', factor)
    .option('--json', 'print the numbers as JSON')

/** `tender part FILE`: what the file holds, what was mended, how it stands and what of it needs holding. */
export function partCommand(): Command {
  return reading(
    new Command('part').description(
      'look into a mesh file: what was mended, how it stands, what needs holding',
    ),
  ).action(async (file: string, options: Common) => {
    const document = planFile(options.plan)
    const opened = openPart(file, options.scale)
    const { mesh, notes: told, report } = opened
    const planner = createPlanner(await polygonEngine())
    const { facts, posed, slices, overhangs } = await comingOf(opened, () =>
      planner.needs(file, mesh, document),
    )
    const standing = standingOf(posed)
    const slicedMm3 = slicedVolumeMm3(slices)
    const overlap = overlapExtent(slices)
    const notes = overlap ? [...told, overlap.sentence] : told
    const { openEdgesMm: _, turned: __, ...counts } = report
    const json = {
      part: {
        ...facts,
        sizeMm: facts.sizeMm.map((side) => round(side)),
        volumeMm3: round(facts.volumeMm3),
        areaMm2: round(facts.areaMm2),
        slicedMm3: round(slicedMm3),
      },
      bodies: (mesh.bodies ?? []).map(({ name, from, to }) => ({ name, triangles: to - from })),
      report: counts,
      overlap: overlap && {
        volumeMm3: round(overlap.volumeMm3),
        lowestMm: round(overlap.lowestMm),
        highestMm: round(overlap.highestMm),
      },
      notes,
      standing: {
        ...standing,
        footprintMm2: round(standing.footprintMm2),
        leverMm: round(standing.leverMm),
        tipDeg: round(standing.tipDeg, 1),
      },
      holdMm2: round(overhangs.patches.reduce((sum, patch) => sum + patch.areaMm2, 0)),
      patches: overhangs.patches.map(({ kind, access, areaMm2, lowestMm, highestMm }) => ({
        kind,
        access,
        areaMm2: round(areaMm2),
        lowestMm: round(lowestMm),
        highestMm: round(highestMm),
      })),
      islands: overhangs.islands.map(({ zMm, areaMm2, keptOffBy }) => ({
        zMm: round(zMm),
        areaMm2: round(areaMm2),
        keptOffBy,
      })),
      bridges: overhangs.bridges.map(({ zMm, spanMm, areaMm2, free }) => ({
        zMm: round(zMm),
        spanMm: round(spanMm),
        areaMm2: round(areaMm2),
        free,
      })),
    }
    print(options, json, [
      `${counted(facts.triangles, 'triangle')} in ${counted(facts.shells, 'shell')}, ${facts.sizeMm.map((side) => round(side, 2)).join(' x ')} mm, ${facts.watertight ? `closed, ${round(facts.volumeMm3 / 1000, 2)} cm3` : counted(facts.openEdges, 'open edge')}; sliced, ${round(slicedMm3 / 1000, 2)} cm3.`,
      ...notes,
      standingSentence(standing),
      `${round(json.holdMm2, 1)} mm2 need holding in ${counted(json.patches.length, 'patch', 'patches')}; ${counted(json.islands.length, 'island')}; ${json.bridges.filter(({ free }) => free).length} of ${json.bridges.length} bridges stay free.`,
    ])
  })
}

/** `tender poses FILE`: poses that need less holding. */
export function posesCommand(): Command {
  return reading(new Command('poses').description('search for poses that need less holding')).action(
    async (file: string, options: Common) => {
      const document = planFile(options.plan)
      const { mesh, notes } = openPart(file, options.scale)
      const body = partBody(mesh, document.bodies)
      const solids = await solidEngine()
      const judged = await searchPoses(body, solids, judgeOptionsOf(body, document))
      const best = shortlist(judged)
      const unbeaten = new Set(paretoBest(best))
      const json = {
        notes,
        judged: judged.length,
        sides: hullFaces(body, solids).map(({ normal, areaMm2, tipDeg, verdict }) => ({
          normal: normal.map((value) => round(value, 5)),
          areaMm2: round(areaMm2),
          tipDeg: round(tipDeg, 1),
          verdict,
        })),
        poses: best.map((one) => ({
          turn: one.turn,
          supportMm3: round(one.supportMm3),
          airMm3: round(one.airMm3),
          contactMm2: round(one.contactMm2),
          showMm2: round(one.showMm2),
          heightMm: round(one.heightMm),
          contactLayers: one.contactLayers,
          thinMm: round(one.thinMm),
          tipDeg: round(one.standing.tipDeg, 1),
          verdict: one.standing.verdict,
          unbeaten: unbeaten.has(one),
        })),
      }
      print(options, json, [
        ...notes,
        `${counted(json.judged, 'pose')} judged.`,
        ...json.poses.map(
          (one) =>
            `turn ${one.turn.map((value) => round(value, 4)).join(' ')}: ${round(one.supportMm3, 0)} mm3 of supports, ${round(one.contactMm2, 0)} mm2 touched, ${round(one.heightMm, 1)} mm high, ${one.verdict}${one.unbeaten ? '' : ' (another is better in everything)'}`,
        ),
      ])
    },
  )
}

type ReliefOptions = Common & { mode?: string; out?: string }

/**
 * `tender relief FILE`: the part reshaped so that nothing leans past the limit.
 * @throws VALUE_OUT_OF_RANGE, MESH_EMPTY, SOLID_NOT_CLOSED when carried out on what cannot be raised
 */
export function reliefCommand(): Command {
  return reading(new Command('relief').description('reshape a part so that nothing leans past the limit'))
    .option('--mode <mode>', 'add material below, or cut it away: add, cut', 'add')
    .option('--out <file>', 'write the reshaped part; .stl or .3mf')
    .action(async (file: string, options: ReliefOptions) => {
      const { mode } = options
      if (mode !== 'add' && mode !== 'cut')
        throw new TenderError('VALUE_OUT_OF_RANGE', `The mode is "${mode}"; it must be add or cut.`)
      const document = planFile(options.plan)
      const polygons = await polygonEngine()
      const opened = openPart(file, options.scale)
      const planner = createPlanner(polygons)
      const { slices } = await comingOf(opened, () => planner.needs(file, opened.mesh, document))
      const made = await relieve(slices.layers, polygons, { mode, ...document.decisions })
      if (options.out) {
        const body = await solidOfPasses(made.layers, polygons, await solidEngine(), () => undefined)
        if (!body)
          throw new TenderError(
            'MESH_EMPTY',
            'Nothing of the part is left after cutting; there is nothing to write.',
          )
        writeOutput(
          options.out,
          options.out.toLowerCase().endsWith('.3mf')
            ? write3mf(document.name, [{ name: document.name, colour: '#a5a8b4', mesh: body }])
            : writeStl(body),
        )
        // What was written is looked at once more: a file that is not closed would be a bad surprise at the
        // printer.
        if (!meshFacts(body).watertight)
          throw new TenderError('SOLID_NOT_CLOSED', 'The reshaped part did not come out closed.')
      }
      const filament = filamentOf(document.filaments, document.decisions.partFilament)
      const json = {
        notes: opened.notes,
        mode,
        addedMm3: round(made.addedMm3),
        cutMm3: round(made.cutMm3),
        addedG: round(massGrams(made.addedMm3, filament.densityGcm3)),
        cutG: round(massGrams(made.cutMm3, filament.densityGcm3)),
        layers: made.changed,
      }
      print(options, json, [
        ...opened.notes,
        `${counted(json.layers, 'layer changes', 'layers change')}: ${json.addedG} g added, ${json.cutG} g cut away.`,
      ])
    })
}
