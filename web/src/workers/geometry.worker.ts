import solidWasm from 'manifold-3d/manifold.wasm?url'
import { TenderError } from '@tender/core'
import {
  bodiesOf,
  compact,
  guessUnit,
  loadSolidEngine,
  meshFacts,
  meshOfBodies,
  openMesh,
  poseMesh,
  saysUnit,
  unpackMesh,
  UPRIGHT,
  write3mf,
  type MendReport,
  type Mesh,
  type MeshFacts,
  type Pose,
  type UnitGuess,
} from '@tender/core/mesh'
import {
  createPlanner,
  layerViewAt,
  planPrint,
  planRelease,
  printedOf,
  planBounds,
  sectionOf,
  STAGES,
  type LayerView,
  type PlanGeometry,
  type PlanRelease,
  type PlanResult,
  type PlanSummary,
  type Section,
  type StageName,
} from '@tender/core/plan'
import { readGcodeFile } from './readGcodeFile'
import { laidGaps } from '@tender/core/readBack'
import type { ReleaseCheck } from '@tender/core/release'
import type { Printed } from '@tender/core/takeOff'
import { planAs3mf, type Filled } from '@tender/core/solid'
import { type BodyRole, type PlanDocument } from '@tender/core/decide'
import { loadPolygonEngine } from '@tender/core/polygon'
import { toolsFor, type Loaded } from '@tender/core/print'
import { hullFaces } from '@tender/core/pose'
import { expose, transfer, wrap, type Remote } from 'comlink'
import polygonWasm from 'clipper2-wasm/dist/es/clipper2z.wasm?url'
import { answer, unwrap, type Answer } from './answer'
import { layBed, type BedAsked } from './bedWork'
import { breathe } from './breathe'
import { couponWork, type CouponForm, type CouponOrder } from './couponWork'
import { gcodeFile } from './gcodeFile'
import { once } from './once'
import { paintPicture, PART_GREY } from './paintPicture'
import { planSpace, type PlanSpace } from './planSpace'
import type { BesideApi } from './beside.worker'
import {
  drawPart,
  growTree,
  partOf,
  reportNeeds,
  reshape,
  reshapedFile,
  woundsOf,
  type Drawing,
  type NeedsReport,
  type ReliefReport,
} from './partWork'

export type ReadReport = {
  readonly facts: MeshFacts
  readonly notes: readonly string[]
  readonly unit: UnitGuess
  readonly unitKnown: boolean
  readonly bodies: readonly string[]
  /** Of the file's bytes: what the server knows it by. */
  readonly sha256: string
  readonly picture: string
}
export type { Drawing, NeedsReport, ReliefReport, Wounds } from './partWork'
/** Something that can be cut: what a section and a layer drawing need to know of it. */
export type Cuttable = {
  /** What its section and its layers are asked by. */
  readonly id: string
  readonly bounds: ReturnType<typeof planBounds>
  readonly heightMm: number
  readonly undersides: number
}
export type Outcome = Cuttable & { readonly summary: PlanSummary }
export type OnProgress = (stage: StageName, share: number) => void

const bytesOf = async (url: string) => new Uint8Array(await (await fetch(url)).arrayBuffer())
const polygonEngine = once(async () => loadPolygonEngine(await bytesOf(polygonWasm)))
const solidEngine = once(async () => loadSolidEngine(await bytesOf(solidWasm)))
const engines = async () => ({
  polygons: await polygonEngine(),
  solids: await solidEngine(),
  beside: (passes: readonly Filled[]) => askedBeside((api) => api.solid(passes)),
})
const thePlanner = once(async () =>
  createPlanner(await polygonEngine(), (layers, options) => askedBeside((api) => api.trace(layers, options))),
)

let beside: { readonly api: Remote<BesideApi>; readonly lost: Promise<never> } | null = null
/**
 * Asks the thread beside this one, for the lines of a part or for a body; one that does not come up is given
 * up, and asked for anew the next time.
 */
function askedBeside<T>(ask: (api: Remote<BesideApi>) => Promise<Answer<T>>): Promise<T> {
  if (!beside) {
    const worker = new Worker(new URL('./beside.worker.ts', import.meta.url), {
      type: 'module',
      name: 'beside',
    })
    const lost = new Promise<never>((_, reject) => {
      worker.onerror = () => {
        beside = null
        worker.terminate()
        reject(new Error('The thread for lines and bodies did not come up.'))
      }
    })
    lost.catch(() => undefined)
    beside = { api: wrap<BesideApi>(worker), lost }
  }
  return Promise.race([unwrap(ask(beside.api)), beside.lost])
}

const meshes = new Map<string, Mesh>()
const reports = new Map<string, MendReport>()
const MESHES_KEPT = 3
/** What can be cut, by its id. */
const drawn = new Map<string, PlanGeometry>()
const DRAWN_KEPT = 6
function keep(id: string, geometry: PlanGeometry): void {
  drawn.delete(id)
  drawn.set(id, geometry)
  for (const old of [...drawn.keys()].slice(0, -DRAWN_KEPT)) drawn.delete(old)
}
/** A plan that nobody waits for: given up as soon as a real one is asked for. */
async function thoughtOf(key: string, document: PlanDocument): Promise<PlanResult> {
  const asked = newest
  const planner = await thePlanner()
  return planner.plan(
    key,
    meshOf(key),
    document,
    watch(() => newest === asked),
  )
}
const outcomeOf = ({ id, summary, geometry }: PlanResult): Outcome => ({
  id,
  summary,
  bounds: planBounds(geometry),
  heightMm: summary.heightMm,
  undersides: summary.contacts.length,
})
let numbered = 0
/** The ticket of the newest plan asked for; work on an older one stops. */
let newest = 0
function take(ticket: number): void {
  newest = ticket
  if (beside) void beside.api.stop()
}

function meshOf(key: string): Mesh {
  const mesh = meshes.get(key)
  if (!mesh) throw new TenderError('MESH_EMPTY', 'The mesh of this part is not loaded.')
  return mesh
}

function watch(stillWanted: () => boolean, onProgress?: OnProgress) {
  let last = performance.now()
  return async (stage: StageName, share: number) => {
    if (performance.now() - last < 30) return
    onProgress?.(stage, share)
    await breathe()
    last = performance.now()
    if (!stillWanted()) throw new TenderError('STOPPED', 'The work was stopped.')
  }
}

/** How far a plan is, over all its stages. */
const shareOf = (stage: StageName, share: number) => (STAGES.indexOf(stage) + share) / STAGES.length

/** A file to be made of a part that this thread need not hold. */
type FileOrder = [
  ticket: number,
  key: string,
  bytes: Uint8Array,
  document: PlanDocument,
  onShare: (share: number) => void,
]

/** Makes a file: tells its share, stops when a newer one is asked for. */
function filePulse(ticket: number, onShare: (share: number) => void) {
  take(ticket)
  const pulse = watch(
    () => newest === ticket,
    (_, share) => onShare(share),
  )
  return (share: number) => pulse('estimate', share)
}

const plannedFor = async (
  key: string,
  bytes: Uint8Array,
  document: PlanDocument,
  onShare: (share: number) => Promise<void>,
) =>
  (await thePlanner()).plan(key, unpackMesh(bytes).mesh, document, (stage, share) =>
    onShare(shareOf(stage, share)),
  )

/**
 * What the server knows a file by; empty where the page came by the workshop's own network, which offers no
 * hashing: doubles are then not told.
 */
async function sha256Of(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  if (!('subtle' in crypto)) return ''
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes))
  return [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('')
}

const api = {
  /** Reads a file without keeping it: what it holds, and what was wrong with it. */
  read: (bytes: Uint8Array) =>
    answer(async (): Promise<ReadReport> => {
      const { mesh, notes } = openMesh(bytes)
      const unitKnown = saysUnit(bytes)
      const facts = meshFacts(mesh)
      const sha256 = await sha256Of(bytes as Uint8Array<ArrayBuffer>)
      const picture = await paintPicture([{ mesh: poseMesh(mesh, UPRIGHT), colour: PART_GREY }])
      return {
        facts,
        notes,
        unitKnown,
        unit: guessUnit(Math.max(...facts.sizeMm), unitKnown),
        bodies: bodiesOf(mesh).map(({ name }) => name),
        sha256,
        picture,
      }
    }),

  /** Several files as one part of several bodies: a 3MF file, each mesh scaled to millimetres. */
  together: (
    title: string,
    files: readonly { readonly name: string; readonly bytes: Uint8Array; readonly scale: number }[],
  ) =>
    answer(() => {
      const bodies = files.flatMap(({ name, bytes, scale }) => {
        const { mesh } = openMesh(bytes)
        const placed = { ...mesh, positionsMm: mesh.positionsMm.map((value) => value * scale) }
        return bodiesOf(placed).map((body, i, all) => ({
          name: body.name || (all.length > 1 ? `${name} ${i + 1}` : name),
          colour: '#a5a8b4',
          mesh: compact(meshOfBodies(placed, (b) => b === i)!),
        }))
      })
      const packed = write3mf(title, bodies)
      return transfer(packed, [packed.buffer])
    }),

  /** Loads a mesh under a key. */
  hold: (key: string, bytes: Uint8Array) =>
    answer(() => {
      const { mesh, report } = unpackMesh(bytes)
      meshes.delete(key)
      meshes.set(key, mesh)
      reports.set(key, report)
      for (const old of [...meshes.keys()].slice(0, -MESHES_KEPT)) {
        meshes.delete(old)
        reports.delete(old)
      }
      return true
    }),

  /**
   * Triangles of the posed mesh for the graphics card: nine floats each; bodies that are no part stand apart.
   */
  drawing: (key: string, pose: Pose, roles: readonly BodyRole[]) =>
    answer((): Drawing => drawPart(meshOf(key), pose, roles)),

  /** A tree of the drawing's triangles, so that a place on a part of a million of them is found at once. */
  tree: (positions: Float32Array) => answer(() => growTree(positions)),

  /** Flat sides of the hull. */
  faces: (key: string, roles: readonly BodyRole[]) =>
    answer(async () => hullFaces(partOf(meshOf(key), roles), await solidEngine())),

  /** What was mended and what is left, with the places of it, as the part lies. */
  wounds: (key: string, pose: Pose, roles: readonly BodyRole[]) =>
    answer(() => woundsOf(meshOf(key), reports.get(key) ?? null, pose, roles)),

  /** What needs holding, kept for drawing its sections and layers. A newer call, or cancel, stops it. */
  needs: (ticket: number, key: string, document: PlanDocument, onProgress: OnProgress) =>
    answer(async (): Promise<NeedsReport> => {
      take(ticket)
      const needs = await (
        await thePlanner()
      ).needs(
        key,
        meshOf(key),
        document,
        watch(() => newest === ticket, onProgress),
      )
      const id = `needs ${++numbered}`
      keep(id, {
        posed: needs.posed,
        layers: needs.slices.layers,
        hold: needs.overhangs.hold,
        passes: [],
        partPaths: [],
        supportPaths: [],
        towerLaid: null,
      })
      return { ...reportNeeds(needs), id }
    }),

  /** The part changed so that nothing leans past the limit: how much, and the pieces to draw. */
  relief: (
    ticket: number,
    key: string,
    document: PlanDocument,
    mode: 'add' | 'cut',
    onProgress: OnProgress,
  ) =>
    answer(async (): Promise<ReliefReport> => {
      take(ticket)
      const pulse = watch(() => newest === ticket, onProgress)
      const needs = await (await thePlanner()).needs(key, meshOf(key), document, pulse)
      const made = await reshape(
        needs,
        document,
        mode,
        await polygonEngine(),
        await solidEngine(),
        (done, total) => pulse('stand', done / total),
      )
      return transfer(made, [made.positions.buffer])
    }),

  /** The changed part as a file; the original stays as it is. */
  reliefFile: (
    ticket: number,
    key: string,
    bytes: Uint8Array,
    document: PlanDocument,
    mode: 'add' | 'cut',
    form: 'stl' | '3mf',
    title: string,
    onShare: (share: number) => void,
  ) =>
    answer(async () => {
      const pulse = filePulse(ticket, onShare)
      const needs = await (
        await thePlanner()
      ).needs(key, unpackMesh(bytes).mesh, document, (stage, share) => pulse(0.3 * shareOf(stage, share)))
      const file = await reshapedFile(
        needs,
        document,
        mode,
        form,
        title,
        await polygonEngine(),
        await solidEngine(),
        (done, total) => pulse(0.3 + (0.7 * done) / total),
      )
      return transfer(file, [file.buffer])
    }),

  /**
   * Runs a plan and keeps its shapes for drawing. A newer call, or cancel, stops it.
   * @param onShapes is told what can be drawn before lines are traced
   */
  plan: (
    ticket: number,
    key: string,
    document: PlanDocument,
    onProgress: OnProgress,
    onShapes?: (early: Cuttable) => void,
  ) =>
    answer(async (): Promise<Outcome> => {
      take(ticket)
      const early = (shapes: PlanGeometry, undersides: number) => {
        const id = `shapes ${++numbered}`
        keep(id, shapes)
        const heightMm = shapes.layers.at(-1)!.topMm
        onShapes!({ id, bounds: planBounds(shapes), heightMm, undersides })
      }
      const result = await (
        await thePlanner()
      ).plan(
        key,
        meshOf(key),
        document,
        watch(() => newest === ticket, onProgress),
        onShapes && early,
      )
      // A stop that was asked for during the last stretch still counts.
      await breathe()
      if (newest !== ticket) throw new TenderError('STOPPED', 'The work was stopped.')
      keep(result.id, result.geometry)
      return outcomeOf(result)
    }),

  cancel: () => take(-1),

  /** The numbers of a plan that is only being thought about; given up as soon as a real one is asked for. */
  whatIf: (key: string, document: PlanDocument) =>
    answer(async () => (await thoughtOf(key, document)).summary),

  /** How its stands would come off. */
  whatIfReleased: (key: string, document: PlanDocument) =>
    answer(async () => planRelease(document, await thoughtOf(key, document))),

  /** A plan beside others, with how it comes off; given up as soon as a real one is asked for. */
  beside: (key: string, document: PlanDocument) =>
    answer(async (): Promise<Outcome & { readonly release: ReleaseCheck }> => {
      const result = await thoughtOf(key, document)
      keep(result.id, result.geometry)
      return { ...outcomeOf(result), release: planRelease(document, result, await polygonEngine()) }
    }),

  /** A cut of a result; null when it is forgotten. */
  section: (id: string, directionDeg: number, at: number): Section | null => {
    const geometry = drawn.get(id)
    return geometry ? sectionOf(geometry, directionDeg, at) : null
  },
  /** How the stands of a result come off; null when it is forgotten. */
  release: (id: string, document: PlanDocument, onShare?: (share: number) => void) =>
    answer(async (): Promise<PlanRelease | null> => {
      const result = (await thePlanner()).result(id)
      return result ? planRelease(document, result, await polygonEngine(), onShare) : null
    }),
  /** What is kept of a result that was printed; null when it is forgotten. */
  printed: (id: string, document: PlanDocument) =>
    answer(async (): Promise<Printed | null> => {
      const result = (await thePlanner()).result(id)
      return result ? printedOf(document, result, await polygonEngine()) : null
    }),
  /** Gaps as the lines of a result leave them; null when it is forgotten. */
  laidGaps: (id: string, document: PlanDocument) =>
    answer(async () => {
      const result = (await thePlanner()).result(id)
      return result ? laidGaps(planPrint(document, result.groups, result.geometry)) : null
    }),
  /** Stands and interface of a result as triangles. */
  space: (id: string) =>
    answer((): PlanSpace => {
      const geometry = drawn.get(id)
      return planSpace(geometry ?? { passes: [], towerLaid: null })
    }),
  layer: (id: string, zMm: number): LayerView | null => {
    const geometry = drawn.get(id)
    return geometry ? layerViewAt(geometry, zMm) : null
  },

  /**
   * Part, stand and interface as bodies of one 3MF file. Meant for a worker of its own: the joining of solids
   * is not to hold up drawings.
   */
  bodies: (...[ticket, key, bytes, document, onShare]: FileOrder) =>
    answer(async () => {
      const pulse = filePulse(ticket, onShare)
      const result = await plannedFor(key, bytes, document, (share) => pulse(0.3 * share))
      const { file } = await planAs3mf({ document, result }, await engines(), (done, total) =>
        pulse(0.3 + (0.7 * done) / total),
      )
      if (!file)
        throw new TenderError(
          'SOLID_NOT_CLOSED',
          'The part is open, and a 3MF file may only hold closed solids.',
        )
      return file
    }),

  /**
   * The whole print as G-code, put together piece by piece. Meant for a worker of its own.
   * @param loaded what is loaded on the printer
   */
  print: (...[ticket, key, bytes, document, onShare, loaded]: [...FileOrder, loaded: Loaded]) =>
    answer(async () => {
      const pulse = filePulse(ticket, onShare)
      const { geometry, groups } = await plannedFor(key, bytes, document, (share) => pulse(0.7 * share))
      const print = planPrint(document, groups, geometry)
      const tools = toolsFor(print.slots, loaded)
      return gcodeFile({ ...print, tools }, document.printer, (share) => pulse(0.7 + 0.3 * share))
    }),

  /**
   * What a G-code file really does, read piece by piece however long it is. Meant for a worker of its own.
   */
  readGcode: (ticket: number, file: Blob, document: PlanDocument, onShare: (share: number) => void) =>
    answer(() => readGcodeFile(file, document, filePulse(ticket, onShare))),

  /**
   * Variants of a part on one bed: where each stands and what that takes, and a file of it when one is asked
   * for.
   */
  bed: (ticket: number, asked: BedAsked, bytes: Uint8Array, onShare: (share: number) => void) =>
    answer(() => {
      const pulse = filePulse(ticket, onShare)
      return layBed(
        asked,
        (document, onPlan) => plannedFor(asked.key, bytes, document, onPlan),
        engines,
        pulse,
      )
    }),

  /** A small picture of a file as it lies, without keeping the mesh. */
  picture: (bytes: Uint8Array, pose: Pose) =>
    answer(() => paintPicture([{ mesh: poseMesh(unpackMesh(bytes).mesh, pose), colour: PART_GREY }])),

  /** A coupon as it would be printed: its picture, and what it takes. */
  coupon: (order: CouponOrder) =>
    answer(async () => (await couponWork(solidEngine, polygonEngine)).look(order)),

  /** A coupon as a file. */
  couponFile: (order: CouponOrder, form: CouponForm) =>
    answer(async () => (await couponWork(solidEngine, polygonEngine)).file(order, form)),

  /** A coupon as its printer takes it, with what it takes. */
  couponPrint: (order: CouponOrder) =>
    answer(async () => (await couponWork(solidEngine, polygonEngine)).gcode(order)),

  /** A height of a coupon from above. */
  couponLayer: (order: CouponOrder, zMm: number) =>
    answer(async () => (await couponWork(solidEngine, polygonEngine)).layer(order, zMm)),
}
export type GeometryApi = typeof api
expose(api)
