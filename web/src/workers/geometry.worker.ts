import solidWasm from 'manifold-3d/manifold.wasm?url'
import { TenderError } from '@tender/core'
import { filamentOf } from '@tender/core/bench'
import { guessUnit, loadSolidEngine, meshFacts, poseMesh, openMesh, saysUnit, write3mf, type Mesh, type MeshFacts, type Pose, type UnitGuess } from '@tender/core/mesh'
import { createPlanner, layerViewAt, planBodies, planBounds, sectionOf, type LayerView, type PlanDocument, type PlanGeometry, type PlanSummary, type Section, type Stage } from '@tender/core/plan'
import { loadPolygonEngine } from '@tender/core/polygon'
import { expose, transfer } from 'comlink'
import polygonWasm from 'clipper2-wasm/dist/es/clipper2z.wasm?url'
import { answer } from './answer'
import { couponWork, type CouponForm, type CouponOrder } from './couponWork'
import { paintPicture, PART_GREY } from './paintPicture'

export type ReadReport = { readonly facts: MeshFacts; readonly notes: readonly string[]; readonly unit: UnitGuess; readonly unitKnown: boolean }
export type Drawing = { readonly positions: Float32Array; readonly sizeMm: readonly [number, number, number] }
export type Outcome = { readonly summary: PlanSummary; readonly bounds: ReturnType<typeof planBounds> }
export type OnProgress = (stage: Stage, share: number) => void

const bytesOf = async (url: string) => new Uint8Array(await (await fetch(url)).arrayBuffer())
let polygons: ReturnType<typeof loadPolygonEngine> | null = null
let solids: ReturnType<typeof loadSolidEngine> | null = null
let planner: Promise<ReturnType<typeof createPlanner>> | null = null
const polygonEngine = () => (polygons ??= bytesOf(polygonWasm).then(loadPolygonEngine))
const solidEngine = () => (solids ??= bytesOf(solidWasm).then(loadSolidEngine))
const thePlanner = () => (planner ??= polygonEngine().then(createPlanner))

const meshes = new Map<string, Mesh>()
const MESHES_KEPT = 3
let shown: PlanGeometry | null = null
/** The ticket of the newest plan asked for; work on an older one stops. */
let newest = 0

function meshOf(key: string): Mesh {
  const mesh = meshes.get(key)
  if (!mesh) throw new TenderError('MESH_EMPTY', 'The mesh of this part is not loaded.')
  return mesh
}

/** Lets messages in, among them the one that cancels. A timer would be held back to 4 ms; a port is not. */
const channel = new MessageChannel()
const waiting: (() => void)[] = []
channel.port1.onmessage = () => waiting.shift()?.()
const breathe = () =>
  new Promise<void>((resolve) => {
    waiting.push(resolve)
    channel.port2.postMessage(null)
  })

function watch(stillWanted: () => boolean, onProgress?: OnProgress) {
  let last = performance.now()
  return async (stage: Stage, share: number) => {
    if (performance.now() - last < 30) return
    onProgress?.(stage, share)
    await breathe()
    last = performance.now()
    if (!stillWanted()) throw new TenderError('STOPPED', 'The work was stopped.')
  }
}

const api = {
  /** Reads a file without keeping it: what it holds, and what was wrong with it. */
  read: (bytes: Uint8Array) =>
    answer((): ReadReport => {
      const { mesh, notes } = openMesh(bytes)
      const unitKnown = saysUnit(bytes)
      const facts = meshFacts(mesh)
      return { facts, notes, unitKnown, unit: guessUnit(Math.max(...facts.sizeMm), unitKnown) }
    }),

  /** Loads a mesh under a key. */
  hold: (key: string, bytes: Uint8Array) =>
    answer(() => {
      meshes.delete(key)
      meshes.set(key, openMesh(bytes).mesh)
      for (const old of [...meshes.keys()].slice(0, -MESHES_KEPT)) meshes.delete(old)
      return true
    }),

  /** Triangles of the posed mesh for the graphics card: nine floats each. */
  drawing: (key: string, pose: Pose) =>
    answer((): Drawing => {
      const { positionsMm, corners } = poseMesh(meshOf(key), pose)
      const positions = new Float32Array(corners.length * 3)
      const max = [-Infinity, -Infinity, -Infinity]
      const min = [Infinity, Infinity, Infinity]
      for (let c = 0; c < corners.length; c++)
        for (let axis = 0; axis < 3; axis++) {
          const value = positionsMm[3 * corners[c] + axis]
          positions[3 * c + axis] = value
          if (value > max[axis]) max[axis] = value
          if (value < min[axis]) min[axis] = value
        }
      return transfer({ positions, sizeMm: [max[0] - min[0], max[1] - min[1], max[2] - min[2]] }, [positions.buffer])
    }),

  /** Runs a plan and keeps its shapes for drawing. A newer call, or cancel, stops it. */
  plan: (ticket: number, key: string, document: PlanDocument, onProgress: OnProgress) =>
    answer(async (): Promise<Outcome> => {
      newest = ticket
      const result = await (await thePlanner()).plan(key, meshOf(key), document, watch(() => newest === ticket, onProgress)) // prettier-ignore
      // A stop that was asked for during the last stretch still counts.
      await breathe()
      if (newest !== ticket) throw new TenderError('STOPPED', 'The work was stopped.')
      shown = result.geometry
      return { summary: result.summary, bounds: planBounds(result.geometry) }
    }),

  cancel: () => {
    newest = -1
  },

  /** The numbers of a plan that is only being thought about; given up as soon as a real one is asked for. */
  whatIf: (key: string, document: PlanDocument) =>
    answer(async () => {
      const asked = newest
      return (await (await thePlanner()).plan(key, meshOf(key), document, watch(() => newest === asked))).summary // prettier-ignore
    }),

  section: (axis: 'x' | 'y', at: number): Section | null => shown && sectionOf(shown, axis, at),
  layer: (zMm: number): LayerView | null => shown && layerViewAt(shown, zMm),

  /** Part, stand and interface as bodies of one 3MF file. Meant for a worker of its own: the joining of solids is not to hold up drawings. */
  bodies: (ticket: number, key: string, bytes: Uint8Array, document: PlanDocument, onShare: (share: number) => void) =>
    answer(async () => {
      newest = ticket
      const mesh = openMesh(bytes).mesh
      const pulse = watch(() => newest === ticket, (_, share) => onShare(share)) // prettier-ignore
      const { geometry } = await (await thePlanner()).plan(key, mesh, document, (stage) => pulse(stage, 0.1))
      const engine = await solidEngine()
      const { partFilament, standFilament, interfaceFilament } = document.decisions
      const colour = (name: string) => filamentOf(document.filaments, name).colour
      const colours = { part: colour(partFilament), stand: colour(standFilament), interface: colour(interfaceFilament) }
      const bodies = await planBodies(geometry, await polygonEngine(), engine, colours, (done, total) => pulse('estimate', 0.2 + (0.8 * done) / total))
      return write3mf(document.name, bodies)
    }),

  /** A small picture of a file as it lies, without keeping the mesh. */
  picture: (bytes: Uint8Array, pose: Pose) => answer(() => paintPicture([{ mesh: poseMesh(openMesh(bytes).mesh, pose), colour: PART_GREY }])),

  /** A coupon as it would be printed: its picture, and what it takes. */
  coupon: (order: CouponOrder) => answer(async () => (await couponWork(solidEngine, polygonEngine)).look(order)),

  /** A coupon as a file. */
  couponFile: (order: CouponOrder, form: CouponForm) => answer(async () => (await couponWork(solidEngine, polygonEngine)).file(order, form)),
}
export type GeometryApi = typeof api
expose(api)
