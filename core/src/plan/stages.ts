import { TenderError } from '../errors'
import { farthestApartMm, partBody, roleOf, type Holding } from '../decide'
import { applyPlacing, bodiesOf, meshEdges, meshFacts, meshOfBodies, placingOf, type Mesh } from '../mesh'
import { cutZones, findOverhangs, type Bridge, type Zone } from '../overhang'
import {
  onSomething,
  partPaths,
  seamsAway,
  supportPaths,
  underSpans,
  type FreeBridge,
  type LinesKnown,
  type SupportPathOptions,
  type ToolPaths,
} from '../path'
import { isEmptyRegion, regionContains, splitPieces, type PolygonEngine } from '../polygon'
import { cutMesh, sliceMesh, type Layer } from '../slice'
import { levelsOf, outlinesOf } from '../stand'
import { assignHoldings, holdingsOf } from './assign'
import { holdUp } from './holdUp'
import type { Outputs } from './outputs'
import type { Reading } from './reading'
import { defineStage, type Stage } from './stage'

/** Decisions of holding that say where supports are. */
const WHERE_HELD = [
  'supports',
  'standKind',
  'branches',
  'placement',
  'upperGapMm',
  'lowerGapMm',
  'sideGapMm',
  'marginMm',
  'interfaceLayers',
  'lowerInterfaceLayers',
  'stackMode',
  'denseTopMm',
  'thickStands',
] as const
/** And those that say how their lines are laid. */
const HOW_LAID = [
  'standKind',
  'interfaceSpacingMm',
  'interfaceLines',
  'interfaceDirection',
  'standLines',
  'standWalls',
  'standDensity',
  'denseTopDensity',
] as const

/**
 * The work of a plan, in its order.
 * @throws MESH_EMPTY when the part is thinner than half a layer, or a sheet that no layer cuts
 */
export const PLAN_STAGES = [
  // Turning a part leaves its edges as they are; finding them costs as much as slicing a heavy one.
  defineStage({
    name: 'part',
    after: [],
    reads: ['bodies'],
    run(_, { bodies }, { mesh }) {
      const part = partBody(mesh, bodies)
      return { part, openEdges: meshEdges(part).openCount }
    },
  }),
  defineStage({
    name: 'lie',
    after: ['part'],
    reads: ['pose', 'bodies'],
    run({ part: { part, openEdges } }, { pose, bodies }, { mesh }) {
      const placing = placingOf(part, pose)
      const posed = applyPlacing(part, placing)
      const drawn = meshOfBodies(mesh, (body) => roleOf(bodies, body) === 'stand')
      return {
        posed,
        facts: meshFacts(posed, openEdges),
        placing,
        drawn: drawn && applyPlacing(drawn, placing),
      }
    },
  }),
  defineStage({
    name: 'slice',
    after: ['lie'],
    reads: ['layerHeightMm', 'firstLayerHeightMm'],
    async run({ lie }, heights, { engine, checkpoint }) {
      const slices = await sliceMesh(lie.posed, engine, heights, checkpoint)
      if (slices.layers.every((layer) => isEmptyRegion(layer.region)))
        throw new TenderError(
          'MESH_EMPTY',
          `${
            2 * lie.facts.sizeMm[2] <= heights.firstLayerHeightMm
              ? 'The part is thinner than half a layer'
              : 'The part has no thickness wherever a layer cuts it'
          }; nothing of it would be printed.`,
        )
      return slices
    },
  }),
  defineStage({
    name: 'zones',
    after: ['lie', 'slice'],
    reads: ['zones', 'bodies'],
    run: ({ lie, slice }, reading, { mesh, engine }) =>
      cutZones(
        zonesOf(mesh, reading),
        slice.layers,
        lie.placing,
        (body) => meshOfBodies(mesh, (b) => b === body),
        engine,
      ),
  }),
  defineStage({
    name: 'overhang',
    after: ['slice', 'zones'],
    reads: ['freeAngleDeg', 'sideAnglesDeg', 'freeSpanMm', 'lineWidthMm'],
    run: ({ slice, zones }, limits, { engine, checkpoint }) =>
      findOverhangs(
        slice.layers,
        engine,
        // Faces that must look good are no matter of holding; exceptions may name them.
        { ...limits, zones: zones.filter(({ zone }) => zone.kind !== 'show') },
        checkpoint,
      ),
  }),
  // Most changes of a limit leave bridges as they are; then the part's lines stay too.
  defineStage({
    name: 'free bridges',
    after: ['slice', 'overhang'],
    reads: ['lineWidthMm'],
    run: ({ slice, overhang }, { lineWidthMm }, { engine }) =>
      freeBridges(slice.layers, overhang.bridges, lineWidthMm, engine),
    identity: (bridges) =>
      JSON.stringify(
        bridges.map(({ layerIndex, directionDeg, region }) => [
          layerIndex,
          directionDeg,
          Array.from(region.xyMm),
        ]),
      ),
  }),
  defineStage({
    name: 'part paths',
    after: ['slice', 'free bridges'],
    reads: ['lineWidthMm', 'walls', 'fillDensity', 'skinLayers', 'wallsFrom'],
    run({ slice, 'free bridges': bridges }, reading, { engine, tracer, checkpoint }) {
      const options = { ...reading, bridges }
      return tracer ? tracer(slice.layers, options) : partPaths(slice.layers, engine, options, checkpoint)
    },
  }),
  defineStage({
    name: 'seamed paths',
    after: ['part paths', 'zones'],
    reads: [],
    run({ 'part paths': paths, zones }) {
      const shown = zones.filter(({ zone }) => zone.kind === 'show')
      return shown.length === 0
        ? paths
        : paths.map((own, i) => shown.reduce((seamed, { regions }) => seamsAway(seamed, regions[i]), own))
    },
  }),
  defineStage({
    name: 'levels',
    after: ['slice'],
    reads: [],
    run: ({ slice }, _, { supports }) => ({
      levels: levelsOf(slice.layers),
      outlines: outlinesOf(slice.layers, supports),
    }),
  }),
  defineStage({
    name: 'assign',
    after: ['slice', 'zones', 'overhang'],
    reads: ['exceptions', 'posts'],
    run: ({ slice, zones, overhang }, { exceptions, posts }, { supports }) =>
      assignHoldings({ layers: slice.layers, overhangs: overhang, exceptions, posts, zones }, supports),
  }),
  defineStage({
    name: 'stand',
    after: ['lie', 'slice', 'levels', 'zones', 'overhang', 'assign'],
    reads: [
      ...WHERE_HELD,
      'exceptions',
      'lineWidthMm',
      'thicknessMm',
      'leanDeg',
      'linesApartMm',
      'footingLines',
      'brimLines',
    ],
    async run({ lie, slice, levels, zones, overhang, assign }, reading, { engine, supports, checkpoint }) {
      const drawn = lie.drawn
        ? await cutMesh(
            lie.drawn,
            slice.layers.map(({ bottomMm, topMm }) => (bottomMm + topMm) / 2),
            engine,
          )
        : null
      return holdUp({
        ...levels,
        ...reading,
        engine: supports,
        groups: assign,
        holdings: holdingsOf(
          reading as unknown as Holding,
          reading.exceptions,
          assign,
          zones.map(({ zone }) => zone.id),
        ),
        drawn,
        hold: overhang.hold,
        stepLimitMm: overhang.stepLimitMm,
        checkpoint,
      })
    },
  }),
  defineStage({
    name: 'support paths',
    after: ['lie', 'slice', 'zones', 'assign', 'stand'],
    reads: [...HOW_LAID, 'exceptions', 'lineWidthMm', 'supportSpanMm', 'lowerGapMm', 'footingLines'],
    async run({ lie, slice, zones, assign, stand }, reading, { supports, checkpoint }) {
      const holdings = holdingsOf(
        reading as unknown as Holding,
        reading.exceptions,
        assign,
        zones.map(({ zone }) => zone.id),
      )
      const options = holdings.map((holding): SupportPathOptions => laidAs(holding, reading))
      const lines: ToolPaths[] = []
      for (const pass of stand.passes) {
        await checkpoint(lines.length, 2 * stand.passes.length)
        const level = Math.round(pass.bottomMm / (pass.topMm - pass.bottomMm))
        lines.push(supportPaths(pass, level, supports, options[pass.holding], traced))
      }
      // What the maker drew is laid as it was drawn.
      if (lie.drawn) return lines
      const lowerGapMm = Math.max(...holdings.map((holding) => holding.lowerGapMm))
      const ground = { layers: slice.layers, belowMm: lowerGapMm + RESTS_MM }
      const { lineWidthMm, supportSpanMm } = reading
      const half = () => checkpoint(stand.passes.length, 2 * stand.passes.length)
      const carried = await underSpans(stand.passes, lines, ground, lineWidthMm, supportSpanMm, half)
      return onSomething(stand.passes, carried, ground, lineWidthMm, (done, total) =>
        checkpoint(total + done, 2 * total),
      )
    },
  }),
] as const satisfies readonly Stage[]

/** A stand rests on the part when it begins no more than this above what its lower gap leaves. */
const RESTS_MM = 0.35

/** So many line widths of a bridge lie on what carries it. */
const ANCHORED = 1.5

/** What of a layer lies over nothing between two carriers, and stays free. */
function freeBridges(
  layers: readonly Layer[],
  bridges: readonly Bridge[],
  lineWidthMm: number,
  engine: PolygonEngine,
): FreeBridge[] {
  return bridges.flatMap(({ free, layerIndex, directionDeg, atMm }) => {
    if (!free || layerIndex === 0) return []
    const over = engine.minus(layers[layerIndex].region, layers[layerIndex - 1].region)
    const piece = splitPieces(over).find((one) => regionContains(one, ...atMm))
    return piece
      ? [{ layerIndex, directionDeg, region: engine.grow(piece, ANCHORED * lineWidthMm, 'miter') }]
      : []
  })
}

/** Everything of a document that a stage goes by, its own and what comes before it. */
export function readsOf(name: keyof Outputs): ReadonlySet<keyof Reading> {
  const stage = PLAN_STAGES.find((one) => one.name === name)!
  const all = new Set<keyof Reading>(stage.reads)
  for (const before of stage.after) for (const read of readsOf(before)) all.add(read)
  return all
}

/**
 * How the lines of a holding are laid: no stand line lies farther from the next than lines above it are
 * trusted to span.
 */
export function laidAs(
  holding: Omit<SupportPathOptions, 'lineWidthMm' | 'footingLines'>,
  {
    lineWidthMm,
    supportSpanMm,
    footingLines,
  }: Pick<Reading, 'lineWidthMm' | 'supportSpanMm' | 'footingLines'>,
): SupportPathOptions {
  const sparsest = Math.min(1, lineWidthMm / farthestApartMm({ lineWidthMm, supportSpanMm }))
  return {
    lineWidthMm,
    footingLines,
    interfaceSpacingMm: holding.interfaceSpacingMm,
    interfaceLines: holding.interfaceLines,
    interfaceDirection: holding.interfaceDirection,
    standLines: holding.standLines,
    standKind: holding.standKind,
    standWalls: holding.standWalls,
    standDensity: Math.max(sparsest, holding.standDensity),
    denseTopDensity: Math.max(sparsest, holding.denseTopDensity),
  }
}

/** The maker's zones, after those that bodies of the file stand for. */
function zonesOf(mesh: Mesh, { zones, bodies }: Pick<Reading, 'zones' | 'bodies'>): Zone[] {
  const fromFile = bodiesOf(mesh).flatMap(({ name }, body): Zone[] => {
    const kind = roleOf(bodies, body)
    return kind === 'hold' || kind === 'keepOff'
      ? [
          {
            id: `body ${body}`,
            name: name || `Body ${body + 1}`,
            kind,
            limitDeg: kind === 'hold' ? 0 : 90,
            shape: { kind: 'body', body },
          },
        ]
      : []
  })
  return [...fromFile, ...zones]
}

/** Lines of supports: a piece that is laid the same way keeps the lines it had. */
const traced: LinesKnown = new WeakMap()
