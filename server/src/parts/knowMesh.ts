import type { Part } from '@tender/contract'
import { bodiesOf, meshFacts, openMesh } from '@tender/core/mesh'

/** What is kept of a mesh file beside its bytes. */
export type MeshKnowledge = { readonly facts: Part['facts']; readonly notes: string[]; readonly bodies: Part['meshBodies'] }

/** @throws TenderError when the file cannot be read as a mesh */
export function knowMesh(bytes: Uint8Array): MeshKnowledge {
  const { mesh, notes } = openMesh(bytes)
  const facts = meshFacts(mesh)
  return { facts: { ...facts, sizeMm: [...facts.sizeMm] }, notes: [...notes], bodies: bodiesOf(mesh).map(({ name, from, to }) => ({ name, triangles: to - from })) }
}
