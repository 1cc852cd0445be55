import { TenderError } from '@tender/core'
import type { MendReport, Mesh } from '@tender/core/mesh'
import type { PlanGeometry } from '@tender/core/plan'

type Held = { readonly mesh: Mesh; readonly report: MendReport }

const held = new Map<string, Held>()
const MESHES_KEPT = 3

/** Keeps a mesh under a key, and the newest few of others. */
export const holdMesh = (key: string, one: Held): void => keepNewest(held, MESHES_KEPT, key, one)

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

/** Keeps what can be cut and drawn, by its id, and the newest few of others. */
export const keepDrawn = (id: string, geometry: PlanGeometry): void =>
  keepNewest(drawn, DRAWN_KEPT, id, geometry)

/** Null when it is forgotten. */
export const drawnOf = (id: string): PlanGeometry | null => drawn.get(id) ?? null

let numbered = 0
/** An id for something drawn that is no plan. */
export const newId = (name: string): string => `${name} ${++numbered}`

/** Puts one in last, and lets go of those that were put in before the last so many. */
function keepNewest<T>(kept: Map<string, T>, most: number, key: string, one: T): void {
  kept.delete(key)
  kept.set(key, one)
  for (const old of [...kept.keys()].slice(0, -most)) kept.delete(old)
}
