import type { Mesh } from './mesh'

export type SharedSides = {
  /** Per side (3t + i): -1 when nothing lies across, else twice the side across, plus one when both run the same way round. */
  readonly partner: Int32Array
  readonly openSides: Uint32Array
  /** Edges that more than two sides lie on. */
  readonly crowdedEdges: number
}

/**
 * Which triangle lies across each side, whichever way round it faces. Sides that run against each other are paired first; of what is
 * left on an edge, two that run the same way are paired as well.
 */
export function sharedSides({ corners }: Mesh): SharedSides {
  const sides = corners.length
  const slots = 1 << Math.ceil(Math.log2(Math.max(8, sides)) + 0.5)
  // Each slot holds the last side met on its edge; `before` chains the others.
  const table = new Int32Array(slots).fill(-1)
  const before = new Int32Array(sides).fill(-1)
  const partner = new Int32Array(sides).fill(-1)
  const end = (side: number) => corners[side % 3 === 2 ? side - 2 : side + 1]
  for (let side = 0; side < sides; side++) {
    const [from, to] = [corners[side], end(side)]
    const low = from < to ? from : to
    const high = from < to ? to : from
    let slot = (Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) >>> 0
    slot = (slot ^ (slot >>> 14)) & (slots - 1)
    for (;;) {
      const known = table[slot]
      if (known < 0) {
        table[slot] = side
        break
      }
      const [a, b] = [corners[known], end(known)]
      if ((a < b ? a : b) === low && (a < b ? b : a) === high) {
        for (let other = known; other >= 0; other = before[other])
          if (partner[other] < 0 && corners[other] === to) {
            partner[other] = 2 * side
            partner[side] = 2 * other
            break
          }
        before[side] = known
        table[slot] = side
        break
      }
      slot = (slot + 1) & (slots - 1)
    }
  }
  let crowdedEdges = 0
  let open = 0
  for (const last of table) {
    if (last < 0) continue
    let met = 0
    let waiting = -1
    for (let side = last; side >= 0; side = before[side]) {
      met++
      if (partner[side] >= 0) continue
      if (waiting < 0) waiting = side
      else {
        partner[side] = 2 * waiting + 1
        partner[waiting] = 2 * side + 1
        waiting = -1
      }
    }
    if (waiting >= 0) open++
    if (met > 2) crowdedEdges++
  }
  const openSides = new Uint32Array(open)
  let size = 0
  for (let side = 0; side < sides; side++) if (partner[side] < 0) openSides[size++] = side
  return { partner, openSides, crowdedEdges }
}
