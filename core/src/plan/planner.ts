import { checkDocument, type PlanDocument } from '../decide'
import type { Mesh, MeshFacts, Placing } from '../mesh'
import type { Overhangs } from '../overhang'
import { createCoverMeasurer } from '../path'
import { stackEngine, type PolygonEngine } from '../polygon'
import { createPathMeasurer } from '../print'
import type { Slices } from '../slice'
import type { Outputs } from './outputs'
import { planPrint } from './planPrint'
import type { PlanGeometry, PlanResult } from './planResult'
import { readingOf, type Reading } from './reading'
import type { Stage, Tracer } from './stage'
import { STAGES, type StageName } from './stageNames'
import { PLAN_STAGES } from './stages'
import { summarise } from './summarise'

/** Told before each piece of work. May wait (to let a cancel in), may throw STOPPED. */
export type Progress = (stage: StageName, share: number) => void | Promise<void>

export type Planner = {
  /**
   * Runs the stages that the document's change touches; the rest is taken from before. Results are kept for a
   * while, under their id.
   * @param partKey names the mesh: the same key must mean the same mesh
   * @param onShapes is given what is to be held, then by what as well, before lines are traced
   * @throws TenderError VALUE_OUT_OF_RANGE, FILAMENT_UNKNOWN, LAYERS_TOO_MANY, MESH_EMPTY, or whatever
   * `progress` throws
   */
  plan(
    partKey: string,
    mesh: Mesh,
    document: PlanDocument,
    progress?: Progress,
    onShapes?: (shapes: PlanGeometry, undersides: number) => void,
  ): Promise<PlanResult>
  /**
   * The first stages alone: how the part lies, its layers, and what of them needs holding. Shares what it
   * worked out with `plan`.
   * @throws as `plan`
   */
  needs(partKey: string, mesh: Mesh, document: PlanDocument, progress?: Progress): Promise<Needs>
  /** A result that was given before; undefined when it is forgotten. */
  result(id: string): PlanResult | undefined
}

/** A part as it lies, cut into layers, with what needs holding. */
export type Needs = {
  readonly facts: MeshFacts
  readonly posed: Mesh
  readonly placing: Placing
  readonly slices: Slices
  readonly overhangs: Overhangs
}

/** What a stage was asked and what it answered, for the last few questions. */
type Answer<N extends keyof Outputs = keyof Outputs> = {
  readonly key: string
  readonly id: string
  readonly value: Outputs[N]
}
const REMEMBERED = 3
const RESULTS_KEPT = 6

/** One question after a plan. */
type Asking = {
  readonly partKey: string
  readonly mesh: Mesh
  readonly reading: Reading
  readonly progress: Progress | undefined
  readonly answers: Map<keyof Outputs, Answer>
}

const BY_NAME = new Map(PLAN_STAGES.map((stage): [keyof Outputs, Stage] => [stage.name, stage]))
const isTold = (name: string): name is StageName => (STAGES as readonly string[]).includes(name)

/**
 * A planner keeps the results of each stage, so that changing the gap does not slice the part again.
 * @param tracer without one, lines are traced here, one stage after the other
 */
export function createPlanner(engine: PolygonEngine, tracer: Tracer | null = null): Planner {
  const supports = stackEngine(engine)
  const memories = new Map<keyof Outputs, Answer[]>()
  const results = new Map<string, PlanResult>()
  const measure = createPathMeasurer()
  const cover = createCoverMeasurer()
  let numbered = 0

  async function answer<N extends keyof Outputs>(name: N, asking: Asking): Promise<Answer<N>> {
    const given = asking.answers.get(name)
    if (given) return given as Answer<N>
    const stage = BY_NAME.get(name)!
    const before: Answer[] = []
    for (const one of stage.after) before.push(await answer(one, asking))
    const key = JSON.stringify([
      stage.after.length === 0 ? asking.partKey : before.map(({ id }) => id),
      stage.reads.map((read) => asking.reading[read]),
    ])
    const memory = memories.get(name) ?? []
    memories.set(name, memory)
    let found = memory.find((one) => one.key === key)
    if (!found) {
      const value = await stage.run(
        Object.fromEntries(stage.after.map((one, i) => [one, before[i].value])),
        asking.reading,
        {
          mesh: asking.mesh,
          engine,
          supports,
          tracer,
          checkpoint: (done, total) => (isTold(name) ? asking.progress?.(name, done / total) : undefined),
        },
      )
      const alike =
        stage.identity && memory.find((one) => stage.identity!(one.value) === stage.identity!(value))
      found = { key, id: alike?.id ?? `${name} ${++numbered}`, value }
      memory.unshift(found)
      memory.length = Math.min(memory.length, REMEMBERED)
    }
    asking.answers.set(name, found)
    return found as Answer<N>
  }

  function ask(partKey: string, mesh: Mesh, document: PlanDocument, progress?: Progress): Asking {
    checkDocument(document)
    return { partKey, mesh, reading: readingOf(document), progress, answers: new Map() }
  }

  async function needsOf(asking: Asking): Promise<Needs> {
    const overhangs = (await answer('overhang', asking)).value
    const lying = (await answer('lie', asking)).value
    const slices = (await answer('slice', asking)).value
    return { facts: lying.facts, posed: lying.posed, placing: lying.placing, slices, overhangs }
  }

  return {
    needs: (partKey, mesh, document, progress) => needsOf(ask(partKey, mesh, document, progress)),
    result: (id) => results.get(id),
    async plan(partKey, mesh, document, progress, onShapes) {
      const asking = ask(partKey, mesh, document, progress)
      const { facts, posed, slices, overhangs } = await needsOf(asking)
      const traced = () => {
        const soon = answer('seamed paths', asking)
        // When the supports fail first, nobody waits for these lines any more.
        soon.catch(() => undefined)
        return soon
      }
      const beside = tracer ? traced() : null
      if (onShapes) {
        const show = (passes: PlanGeometry['passes']) =>
          onShapes(
            {
              ...{ posed, layers: slices.layers, hold: overhangs.hold, passes },
              ...{ partPaths: [], supportPaths: [], towerLaid: null },
            },
            overhangs.patches.length,
          )
        show([])
        show((await answer('stand', asking)).value.passes)
      }
      const linesSoon = beside ?? traced()
      if (!tracer) await linesSoon
      const supportLines = await answer('support paths', asking)
      const lines = await linesSoon
      const { decisions, printer, filaments, evidence, cling, learnt } = document
      const id = JSON.stringify([
        lines.id,
        supportLines.id,
        { decisions, printer, filaments, evidence, cling, learnt, exceptions: document.exceptions },
      ])
      const known = [...results.values()].find((one) => one.key === id)
      if (known) return known
      await progress?.('estimate', 0)
      const stand = asking.answers.get('stand')!.value as Outputs['stand']
      const groups = asking.answers.get('assign')!.value as Outputs['assign']
      const shapes = {
        posed,
        layers: slices.layers,
        hold: overhangs.hold,
        passes: stand.passes,
        partPaths: lines.value,
        supportPaths: supportLines.value,
      }
      const print = planPrint(document, groups, shapes)
      const geometry: PlanGeometry = {
        ...shapes,
        towerLaid: print.tower
          ? { tower: print.tower, sweeps: print.sweeps.filter(({ role }) => role === 'tower') }
          : null,
      }
      const result: PlanResult = {
        key: id,
        id: `plan ${++numbered}`,
        geometry,
        groups,
        summary: summarise({
          engine,
          print,
          document,
          facts,
          slices,
          overhangs,
          groups,
          supports: stand,
          geometry,
          measure,
          cover,
        }),
      }
      results.set(result.id, result)
      for (const old of results.keys()) {
        if (results.size <= RESULTS_KEPT) break
        results.delete(old)
      }
      return result
    },
  }
}
