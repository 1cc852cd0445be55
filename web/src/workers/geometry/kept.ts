import { TenderError } from '@tender/core'
import type { MendReport, Mesh } from '@tender/core/mesh'
import type { PlanGeometry } from '@tender/core/plan'

type Held = { readonly mesh: Mesh; readonly report: MendReport }

const held = new Map<string, Held>()
const MESHES_KEPT = 3

/** Keeps a mesh under a key, and forgets the one that was asked for longest ago. */
export function holdMesh(key: string, one: Held): void {
  held.delete(key)
  held.set(key, one)
  for (const old of [...held.keys()].slice(0, -MESHES_KEPT)) held.delete(old)
}

/** @throws TenderError MESH_EMPTY when it is not held */
export function meshOf(key: string): Mesh {
  const mesh = held.get(key)?.mesh
  if (!mesh) throw new TenderError('MESH_EMPTY', 'The mesh of this part is not loaded.')
  return mesh
}

/** What was mended in a mesh; null when it is not held. */
export const reportOf = (key: string): MendReport | null => held.get(key)?.report ?? null

const drawn = new Map<string, PlanGeometry>()
const DRAWN_KEPT = 6

/** Keeps what can be cut and drawn, by its id. */
export function keepDrawn(id: string, geometry: PlanGeometry): void {
  drawn.delete(id)
  drawn.set(id, geometry)
  for (const old of [...drawn.keys()].slice(0, -DRAWN_KEPT)) drawn.delete(old)
}

/** Null when it is forgotten. */
export const drawnOf = (id: string): PlanGeometry | null => drawn.get(id) ?? null

let numbered = 0
/** An id for something drawn that is no plan. */
export const newId = (name: string): string => `${name} ${++numbered}`
