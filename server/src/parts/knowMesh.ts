import type { Part } from '@tender/contract'
import { bodiesOf, coarsen, meshFacts, openMesh, writeStl } from '@tender/core/mesh'

/** What is kept of a mesh file beside its bytes. */
export type MeshKnowledge = {
  readonly facts: Part['facts']
  readonly notes: string[]
  readonly bodies: Part['meshBodies']
  /** STL of a rough copy; null for a file light enough to be drawn itself. */ readonly rough: Uint8Array | null
}

/** Larger files get a rough copy for small pictures, this many cells along the longest side. */
const HEAVY_BYTES = 4e6
const ROUGH_CELLS = 80

/** @throws TenderError when the file cannot be read as a mesh */
export function knowMesh(bytes: Uint8Array): MeshKnowledge {
  const { mesh, notes } = openMesh(bytes)
  const facts = meshFacts(mesh)
  return {
    facts: { ...facts, sizeMm: [...facts.sizeMm] },
    notes: [...notes],
    bodies: bodiesOf(mesh).map(({ name, from, to }) => ({ name, triangles: to - from })),
    rough: bytes.length > HEAVY_BYTES ? writeStl(coarsen(mesh, ROUGH_CELLS)) : null,
  }
}
