import createSolids, { type Manifold, type ManifoldToplevel } from 'manifold-3d'
import { weldTriangles, type Mesh } from './mesh'

/** The solid engine: booleans that stay watertight. Used for our own shapes, never for a maker's file. */
export type SolidEngine = ManifoldToplevel

/** Starts the solid engine from the bytes of `manifold.wasm`, brought by the caller. */
export async function loadSolidEngine(wasmBinary: Uint8Array | ArrayBuffer): Promise<SolidEngine> {
  const engine = await createSolids({ wasmBinary } as never)
  engine.setup()
  return engine
}

/** Copies a solid out of the engine as a mesh, and frees the solid. */
export function meshOfSolid(solid: Manifold): Mesh {
  const { vertProperties, triVerts, numProp } = solid.getMesh()
  const soup = new Float32Array(triVerts.length * 3)
  for (let c = 0; c < triVerts.length; c++) for (let axis = 0; axis < 3; axis++) soup[3 * c + axis] = vertProperties[triVerts[c] * numProp + axis]
  solid.delete()
  return weldTriangles(soup)
}
