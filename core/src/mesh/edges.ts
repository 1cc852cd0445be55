import type { Mesh } from './mesh'

/**
 * Which edge each side of each triangle lies on. sideEdge[3t + i] is the edge from corner i to corner i+1 of triangle t.
 * Two sides share an edge exactly when they run against each other between the same vertices; a third one gets an edge of its own.
 */
export type Edges = { readonly sideEdge: Uint32Array; readonly count: number; readonly openCount: number }

export function meshEdges(mesh: Mesh): Edges {
  const { corners } = mesh
  const sides = corners.length
  const slots = 1 << Math.ceil(Math.log2(Math.max(8, sides)) + 0.5)
  const mask = slots - 1
  // Each slot holds a side that still waits for its opposite; a matched slot keeps its key so that probing goes on past it.
  const waiting = new Int32Array(slots).fill(-1)
  const matched = new Uint8Array(sides)
  const sideEdge = new Uint32Array(sides)
  let count = 0
  let open = 0
  for (let side = 0; side < sides; side++) {
    const from = corners[side]
    const to = corners[side % 3 === 2 ? side - 2 : side + 1]
    const low = from < to ? from : to
    const high = from < to ? to : from
    let slot = (Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) >>> 0
    slot = (slot ^ (slot >>> 14)) & mask
    for (;;) {
      const other = waiting[slot]
      if (other < 0) {
        waiting[slot] = side
        sideEdge[side] = count++
        open++
        break
      }
      if (!matched[other] && corners[other] === to && corners[other % 3 === 2 ? other - 2 : other + 1] === from) {
        sideEdge[side] = sideEdge[other]
        matched[other] = matched[side] = 1
        open--
        break
      }
      slot = (slot + 1) & mask
    }
  }
  return { sideEdge, count, openCount: open }
}
