import createSolids, { type Manifold, type ManifoldToplevel } from 'manifold-3d'
import type { Mesh } from './mesh'

/** The solid engine: booleans that stay watertight. Used for our own shapes, never for a maker's file. */
export type SolidEngine = ManifoldToplevel

/** Starts the solid engine from the bytes of `manifold.wasm`, brought by the caller. */
export async function loadSolidEngine(wasmBinary: Uint8Array | ArrayBuffer): Promise<SolidEngine> {
  const engine = await createSolids({ wasmBinary } as never)
  engine.setup()
  return engine
}

/**
 * Copies a solid out of the engine as a mesh, and frees the solid. Its own vertices stay: joining equal
 * places would merge sheets that only touch.
 */
export function meshOfSolid(solid: Manifold): Mesh {
  const { vertProperties, triVerts, numProp } = solid.getMesh()
  const positionsMm = new Float64Array((vertProperties.length / numProp) * 3)
  for (let v = 0; v < positionsMm.length / 3; v++)
    for (let axis = 0; axis < 3; axis++) positionsMm[3 * v + axis] = vertProperties[v * numProp + axis]
  solid.delete()
  return { positionsMm, corners: Uint32Array.from(triVerts) }
}
