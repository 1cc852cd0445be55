import type { Mesh } from './mesh'
import { sharedSides } from './sharedSides'

/**
 * Which edge each side of each triangle lies on. sideEdge[3t + i] is the edge from corner i to corner i+1 of
 * triangle t. Two sides share an edge exactly when they run against each other between the same vertices; a
 * third one gets an edge of its own.
 */
export type Edges = { readonly sideEdge: Uint32Array; readonly count: number; readonly openCount: number }

export function meshEdges(mesh: Mesh): Edges {
  const { partner } = sharedSides(mesh)
  const sideEdge = new Uint32Array(partner.length)
  let count = 0
  let openCount = 0
  for (let side = 0; side < partner.length; side++) {
    // An odd partner runs the same way: that is no shared edge.
    const across = partner[side] >= 0 && (partner[side] & 1) === 0 ? partner[side] >> 1 : -1
    if (across < 0) openCount++
    sideEdge[side] = across >= 0 && across < side ? sideEdge[across] : count++
  }
  return { sideEdge, count, openCount }
}
