import type { Region } from './region'

/** Whether two regions have the same rings in the same order, wherever those begin. */
function sameOutlines(a: Region, b: Region): boolean {
  if (a.xyMm.length !== b.xyMm.length || a.starts.length !== b.starts.length) return false
  for (let r = 0; r + 1 < a.starts.length; r++) {
    const from = a.starts[r]
    const count = a.starts[r + 1] - from
    if (b.starts[r] !== from || b.starts[r + 1] - from !== count) return false
    const [p, q] = [a.xyMm, b.xyMm]
    let shift = 0
    while (
      shift < count &&
      (p[2 * from] !== q[2 * (from + shift)] || p[2 * from + 1] !== q[2 * (from + shift) + 1])
    )
      shift++
    if (shift === count) return false
    for (let i = 0; i < count; i++) {
      const j = from + ((i + shift) % count)
      if (p[2 * (from + i)] !== q[2 * j] || p[2 * (from + i) + 1] !== q[2 * j + 1]) return false
    }
  }
  return true
}

/**
 * Shapes kept to be met again: those of a plan of hundreds of levels with dozens of pieces each. A shape that
 * is forgotten comes as another one, and all that was worked out on it is asked anew.
 */
const MOST_KEPT = 100_000

/** Gives for a shape the one that was given before for a shape with the same points. */
export function interning(): (region: Region) => Region {
  let young = new Map<number, Region>()
  let old = new Map<number, Region>()
  const given = new WeakSet<Region>()
  return (region) => {
    if (given.has(region)) return region
    const mark = markOf(region)
    const before = young.get(mark) ?? old.get(mark)
    const found = before && sameOutlines(before, region) ? before : region
    if (young.size >= MOST_KEPT) {
      old = young
      young = new Map()
    }
    young.set(mark, found)
    given.add(found)
    return found
  }
}

/** A number that does not change when rings begin elsewhere. */
function markOf({ xyMm, starts }: Region): number {
  let mark = starts.length
  for (let i = 0; i < xyMm.length; i += 2)
    mark +=
      Math.imul(
        Math.round(xyMm[i] * 1e4) ^ Math.imul(Math.round(xyMm[i + 1] * 1e4), 0x9e3779b1),
        0x85ebca6b,
      ) >>> 0
  return mark
}
