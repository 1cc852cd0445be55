import type { Mesh } from './mesh'

export type SharedSides = {
  /**
   * Per side (3t + i): -1 when nothing lies across, else twice the side across, plus one when both run the
   * same way round.
   */
  readonly partner: Int32Array
  /** Sides with nothing across. */
  readonly openSides: Uint32Array
  /** Those of them that lie on crowded edges: the odd one of three, not the rim of a hole. */
  readonly oddSides: number
  /** Edges that more than two sides lie on: one of the sides of each. */
  readonly crowded: readonly number[]
}

/**
 * Which triangle lies across each side, whichever way round it faces. Sides that run against each other are
 * paired first; of what is left on an edge, two that run the same way are paired as well.
 */
export function sharedSides({ corners }: Mesh): SharedSides {
  const sides = corners.length
  const slots = 1 << Math.ceil(Math.log2(Math.max(8, sides)) + 0.5)
  /**
   * For each edge met the first side on it; under that side's number, how many there are and those that still
   * wait, by direction.
   */
  const table = new Int32Array(slots).fill(-1)
  const met = new Uint32Array(sides)
  const waiting = [new Int32Array(sides).fill(-1), new Int32Array(sides).fill(-1)] as const
  const next = new Int32Array(sides)
  const partner = new Int32Array(sides).fill(-1)
  for (let side = 0; side < sides; side++) {
    const from = corners[side]
    const to = corners[side % 3 === 2 ? side - 2 : side + 1]
    const low = from < to ? from : to
    const high = from < to ? to : from
    let slot = (Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) >>> 0
    slot = (slot ^ (slot >>> 14)) & (slots - 1)
    let first = table[slot]
    while (first >= 0) {
      const a = corners[first]
      const b = corners[first % 3 === 2 ? first - 2 : first + 1]
      if ((a === low && b === high) || (a === high && b === low)) break
      slot = (slot + 1) & (slots - 1)
      first = table[slot]
    }
    if (first < 0) table[slot] = first = side
    met[first]++
    const way = from < to ? 0 : 1
    const across = waiting[1 - way][first]
    if (across < 0) {
      next[side] = waiting[way][first]
      waiting[way][first] = side
    } else {
      waiting[1 - way][first] = next[across]
      partner[across] = 2 * side
      partner[side] = 2 * across
    }
  }
  const crowded: number[] = []
  let open = 0
  let oddSides = 0
  for (const first of table) {
    if (first < 0) continue
    if (met[first] > 2) crowded.push(first)
    // What still waits runs one way only.
    let left = waiting[0][first] >= 0 ? waiting[0][first] : waiting[1][first]
    for (; left >= 0;) {
      const other = next[left]
      if (other < 0) {
        open++
        if (met[first] > 2) oddSides++
        break
      }
      partner[left] = 2 * other + 1
      partner[other] = 2 * left + 1
      left = next[other]
    }
  }
  const openSides = new Uint32Array(open)
  let size = 0
  for (let side = 0; side < sides; side++) if (partner[side] < 0) openSides[size++] = side
  return { partner, openSides, oddSides, crowded }
}
