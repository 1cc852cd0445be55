import {
  bodiesOf,
  compact,
  guessUnit,
  meshFacts,
  meshOfBodies,
  openMesh,
  poseMesh,
  saysUnit,
  unpackMesh,
  UPRIGHT,
  write3mf,
  type MeshFacts,
  type Pose,
  type UnitGuess,
} from '@tender/core/mesh'
import type { BodyRole, PlanDocument } from '@tender/core/decide'
import { hullFaces } from '@tender/core/pose'
import { transfer } from 'comlink'
import { answer } from '../answer'
import { paintPicture, PART_GREY } from '../paintPicture'
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
} from '../partWork'
import { thePlanner } from './engines'
import { holdMesh, keepDrawn, meshOf, newId, reportOf } from './kept'
import { polygonEngine, solidEngine } from './libraries'
import { filePulse, shareOf, take, watch, type OnProgress } from './running'

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

/**
 * What the server knows a file by; empty where the page came by the workshop's own network, which offers no
 * hashing: doubles are then not told.
 */
async function sha256Of(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  if (!('subtle' in crypto)) return ''
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes))
  return [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('')
}

/** What is asked about files and parts. */
export const partCalls = {
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
      holdMesh(key, { mesh, report })
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
    answer(() => woundsOf(meshOf(key), reportOf(key), pose, roles)),

  /** A small picture of a file as it lies, without keeping the mesh. */
  picture: (bytes: Uint8Array, pose: Pose) =>
    answer(() => paintPicture([{ mesh: poseMesh(unpackMesh(bytes).mesh, pose), colour: PART_GREY }])),

  /** What needs holding, kept for drawing its sections and layers. A newer call, or cancel, stops it. */
  needs: (ticket: number, key: string, document: PlanDocument, onProgress: OnProgress) =>
    answer(async (): Promise<NeedsReport> => {
      const isWanted = take(ticket)
      const needs = await (await thePlanner()).needs(key, meshOf(key), document, watch(isWanted, onProgress))
      const id = newId('needs')
      keepDrawn(id, {
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
      const pulse = watch(take(ticket), onProgress)
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
}
