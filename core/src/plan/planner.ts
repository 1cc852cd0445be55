import { thicknessOf } from '../bench'
import { TenderError } from '../errors'
import { applyPlacing, bodiesOf, meshEdges, meshFacts, meshOfBodies, placingOf, type Mesh, type MeshFacts, type Placing } from '../mesh'
import { cutZones, findOverhangs, type Overhangs, type Zone } from '../overhang'
import { createSweepMeasurer, partPaths, supportPaths, type PartPathOptions, type ToolPaths } from '../path'
import { EMPTY_REGION, isEmptyRegion, type PolygonEngine, type Region } from '../polygon'
import { cutMesh, sliceMesh, type Checkpoint, type Layer, type Slices } from '../slice'
import { straightStands, supportPasses, type PassMemo, type Stands, type SupportPasses } from '../stand'
import { partBody, roleOf } from './bodyRoles'
import { checkDocument } from './checkDocument'
import type { PlanDocument } from './decisions'
import type { PlanResult } from './planResult'
import { summarise } from './summarise'

export const STAGES = ['slice', 'overhang', 'part paths', 'stand', 'stack', 'support paths', 'estimate'] as const
export type Stage = (typeof STAGES)[number]

/** Told before each piece of work. May wait (to let a cancel in), may throw STOPPED. */
export type Progress = (stage: Stage, share: number) => void | Promise<void>

export type Planner = {
  /**
   * Runs the stages that the document's change touches; the rest is taken from before.
   * @param partKey names the mesh: the same key must mean the same mesh
   * @throws TenderError VALUE_OUT_OF_RANGE, FILAMENT_UNKNOWN, LAYERS_TOO_MANY, or whatever `progress` throws
   */
  plan(partKey: string, mesh: Mesh, document: PlanDocument, progress?: Progress): Promise<PlanResult>
  /** The first stages alone: how the part lies, its layers, and what of them needs holding. Shares what it worked out with `plan`. */
  needs(partKey: string, mesh: Mesh, document: PlanDocument, progress?: Progress): Promise<Needs>
}

/** A part as it lies, cut into layers, with what needs holding. */
export type Needs = { readonly facts: MeshFacts; readonly posed: Mesh; readonly placing: Placing; readonly slices: Slices; readonly overhangs: Overhangs }

/** What a stage was asked and what it answered, for the last few questions. */
type Memory<T> = { key: string; value: T }[]
const REMEMBERED = 3

/** Traces a part's lines somewhere else, while the planner builds its supports: nothing of either needs the other. */
export type Tracer = (layers: readonly Layer[], options: PartPathOptions) => Promise<ToolPaths[]>

/**
 * A planner keeps the results of each stage, so that changing the gap does not slice the part again.
 * @param tracer without one, lines are traced here, one stage after the other
 */
export function createPlanner(engine: PolygonEngine, tracer?: Tracer): Planner {
  const memories = new Map<Stage | 'part' | 'pose', Memory<unknown>>()
  const passMemos = new WeakMap<Stands, PassMemo>()
  const traces = new WeakMap<Region, Map<string, ToolPaths>>()
  const measure = createSweepMeasurer()

  async function stage<T>(name: Stage | 'part' | 'pose', key: unknown, make: (checkpoint: Checkpoint) => T | Promise<T>, progress?: Progress): Promise<T> {
    const text = JSON.stringify(key)
    const memory = (memories.get(name) ?? []) as Memory<T>
    memories.set(name, memory)
    const known = memory.find((one) => one.key === text)
    if (known) return known.value
    const value = await make((done, total) => (name === 'pose' || name === 'part' ? undefined : progress?.(name, done / total)))
    memory.unshift({ key: text, value })
    memory.length = Math.min(memory.length, REMEMBERED)
    return value
  }

  async function needsOf(partKey: string, mesh: Mesh, document: PlanDocument, progress?: Progress) {
    checkDocument(document)
    const d = document.decisions
    const posedKey = [partKey, document.pose, document.bodies]
    // Turning a part leaves its edges as they are; finding them costs as much as slicing a heavy one.
    const { part, openEdges } = await stage('part', [partKey, document.bodies], () => {
      const found = partBody(mesh, document.bodies)
      return { part: found, openEdges: meshEdges(found).openCount }
    })
    const lying = await stage('pose', posedKey, () => layDown(mesh, part, openEdges, document))
    const { posed, facts } = lying
    const sliceKey = [posedKey, d.layerHeightMm, d.firstLayerHeightMm]
    const slices = await stage<Slices>('slice', sliceKey, (checkpoint) => sliceMesh(posed, engine, d, checkpoint), progress)
    if (slices.layers.every((layer) => isEmptyRegion(layer.region))) throw new TenderError('MESH_EMPTY', 'The part is thinner than half a layer; nothing of it would be printed.')
    const { layers } = slices

    const overhangKey = [sliceKey, d.freeAngleDeg, d.sideAnglesDeg, d.freeSpanMm, d.lineWidthMm, document.zones]
    const overhangs = await stage<Overhangs>(
      'overhang',
      overhangKey,
      async (checkpoint) =>
        findOverhangs(layers, engine, { ...d, zones: await cutZones(zonesOf(mesh, document), layers, lying.placing, (body) => meshOfBodies(mesh, (b) => b === body), engine) }, checkpoint),
      progress,
    )
    return { facts, posed, placing: lying.placing, readyMade: lying.readyMade, slices, overhangs, sliceKey, overhangKey }
  }

  return {
    needs: needsOf,
    async plan(partKey, mesh, document, progress) {
      const { facts, posed, readyMade: drawn, slices, overhangs, sliceKey, overhangKey } = await needsOf(partKey, mesh, document, progress)
      const { layers } = slices
      const d = document.decisions

      const partPathKey = [sliceKey, d.lineWidthMm, d.walls, d.fillDensity, d.skinLayers]
      const inPartSoon = stage<ToolPaths[]>('part paths', partPathKey, (checkpoint) => (tracer ? tracer(layers, d) : partPaths(layers, engine, d, checkpoint)), progress)
      // When the supports fail first, nobody waits for these lines any more.
      inPartSoon.catch(() => undefined)
      if (!tracer) await inPartSoon

      const standKey = [overhangKey, d.supports, d.placement, d.sideGapMm, d.lowerGapMm, d.marginMm, d.footingLines]
      const stands = await stage<Stands>(
        'stand',
        standKey,
        async (checkpoint) => {
          const readyMade = drawn ? await cutMesh(drawn, layers.map(({ bottomMm, topMm }) => (bottomMm + topMm) / 2), engine) : null // prettier-ignore
          return straightStands(layers, d.supports ? overhangs : { ...overhangs, hold: overhangs.hold.map(() => EMPTY_REGION) }, engine, { ...d, readyMade }, checkpoint)
        },
        progress,
      )

      let passMemo = passMemos.get(stands)
      if (!passMemo) passMemos.set(stands, (passMemo = new Map()))
      const thicknessMm = thicknessOf(document.printer)
      const stackKey = [standKey, d.upperGapMm, d.interfaceLayers, d.stackMode, thicknessMm]
      const support = await stage<SupportPasses>('stack', stackKey, (checkpoint) => supportPasses(layers, stands, engine, { ...d, thicknessMm }, passMemo, checkpoint), progress)

      const supportPathKey = [stackKey, d.standDensity, d.interfaceSpacingMm, d.interfaceDirection]
      const inSupport = await stage<ToolPaths[]>('support paths', supportPathKey, (checkpoint) => traceSupports(support, slices, engine, d, traces, checkpoint), progress)

      const inPart = await inPartSoon
      await progress?.('estimate', 0)
      const summary = summarise({ document, facts, slices, overhangs, stands, support, partPaths: inPart, supportPaths: inSupport, measure })
      return { summary, geometry: { posed, layers, hold: overhangs.hold, passes: support.passes, partPaths: inPart, supportPaths: inSupport } }
    },
  }
}

type Lying = { readonly posed: Mesh; readonly facts: MeshFacts; readonly placing: Placing; /** Bodies of the file that are stands already. */ readonly readyMade: Mesh | null }

function layDown(mesh: Mesh, part: Mesh, openEdges: number, document: PlanDocument): Lying {
  const placing = placingOf(part, document.pose)
  const posed = applyPlacing(part, placing)
  const stands = meshOfBodies(mesh, (body) => roleOf(document.bodies, body) === 'stand')
  return { posed, facts: meshFacts(posed, openEdges), placing, readyMade: stands && applyPlacing(stands, placing) }
}

/** The maker's zones, after those that bodies of the file stand for. */
function zonesOf(mesh: Mesh, document: PlanDocument): Zone[] {
  const fromFile = bodiesOf(mesh).flatMap(({ name }, body): Zone[] => {
    const kind = roleOf(document.bodies, body)
    return kind === 'hold' || kind === 'keepOff' ? [{ id: `body ${body}`, name: name || `Body ${body + 1}`, kind, limitDeg: kind === 'hold' ? 0 : 90, shape: { kind: 'body', body } }] : []
  })
  return [...fromFile, ...document.zones.filter(({ kind }) => kind !== 'show')]
}

/** Lines of all passes; a pass of the same shape laid the same way keeps the lines it had. */
async function traceSupports(
  support: SupportPasses,
  slices: Slices,
  engine: PolygonEngine,
  options: PlanDocument['decisions'],
  known: WeakMap<Region, Map<string, ToolPaths>>,
  checkpoint: Checkpoint,
): Promise<ToolPaths[]> {
  const traced: ToolPaths[] = []
  for (const pass of support.passes) {
    await checkpoint(traced.length, support.passes.length)
    const found = slices.layers.findIndex((layer) => layer.bottomMm >= pass.topMm - 1e-6)
    const above = found < 0 ? slices.layers.length : found
    const laid = [pass.role, pass.bottomMm === 0, above & 1, options.lineWidthMm, options.standDensity, options.interfaceSpacingMm, options.interfaceDirection].join()
    const byLaying = known.get(pass.region) ?? new Map<string, ToolPaths>()
    known.set(pass.region, byLaying)
    const paths = byLaying.get(laid) ?? supportPaths(pass, above, engine, options)
    byLaying.set(laid, paths)
    traced.push(paths)
  }
  return traced
}
