import type { Part } from '@tender/contract'
import { bodiesOf, coarsen, meshFacts, openMesh, packMesh } from '@tender/core/mesh'

/** What is kept of a mesh file beside its bytes. */
export type MeshKnowledge = {
  readonly facts: Part['facts']
  readonly notes: string[]
  readonly bodies: Part['meshBodies']
  /** The mended mesh, packed: whoever works with the part need not read its file again. */
  readonly packed: Uint8Array
  /** The same, rough; null for a mesh light enough to be drawn itself. */
  readonly rough: Uint8Array | null
}

/** Heavier meshes get a rough copy for small pictures, this many cells along the longest side. */
const HEAVY_TRIANGLES = 80_000
const ROUGH_CELLS = 80

/** @throws TenderError when the file cannot be read as a mesh */
export function knowMesh(bytes: Uint8Array): MeshKnowledge {
  const { mesh, notes, report } = openMesh(bytes)
  const facts = meshFacts(mesh)
  const heavy = facts.triangles > HEAVY_TRIANGLES
  return {
    facts: { ...facts, sizeMm: [...facts.sizeMm] },
    notes: [...notes],
    bodies: bodiesOf(mesh).map(({ name, from, to, drawnStand }) => ({
      name,
      triangles: to - from,
      ...(drawnStand ? { drawnStand } : {}),
    })),
    packed: packMesh({ mesh, report }),
    rough: heavy
      ? packMesh({ mesh: coarsen(mesh, ROUGH_CELLS), report: { ...report, ...NOTHING_TO_SHOW } })
      : null,
  }
}

/** A small picture shows no wounds. */
const NOTHING_TO_SHOW = { openEdgesMm: new Float64Array(0), turned: new Uint32Array(0), places: [] }
