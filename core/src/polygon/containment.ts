import type { Region } from './region'

/** About so many sides share a band. */
const SIDES_A_BAND = 6

/**
 * Whether places lie in a region, as `regionContains` tells, for many places of the same one: its sides are
 * sorted once into bands of y, and a place is held against those of its own band alone.
 */
export function containment({ xyMm, starts }: Region): (x: number, y: number) => boolean {
  const sides = xyMm.length / 2
  let [low, high] = [Infinity, -Infinity]
  for (let i = 1; i < xyMm.length; i += 2) {
    low = Math.min(low, xyMm[i])
    high = Math.max(high, xyMm[i])
  }
  if (!(high > low)) return () => false
  const bands = Math.ceil(sides / SIDES_A_BAND)
  const perMm = bands / (high - low)
  const bandAt = (y: number) => Math.min(bands - 1, Math.floor((y - low) * perMm))
  // Counted first, then laid down band by band: a side goes into each one that it runs through.
  const ends = new Uint32Array(bands + 1)
  eachSide((p, q) => {
    const [from, to] = [bandAt(xyMm[2 * p + 1]), bandAt(xyMm[2 * q + 1])]
    for (let b = Math.min(from, to); b <= Math.max(from, to); b++) ends[b]++
  })
  for (let b = 1; b <= bands; b++) ends[b] += ends[b - 1]
  const pairs = new Uint32Array(2 * ends[bands])
  eachSide((p, q) => {
    const [from, to] = [bandAt(xyMm[2 * p + 1]), bandAt(xyMm[2 * q + 1])]
    for (let b = Math.min(from, to); b <= Math.max(from, to); b++) {
      const at = 2 * --ends[b]
      pairs[at] = p
      pairs[at + 1] = q
    }
  })
  return (x, y) => {
    if (y < low || y > high) return false
    const band = bandAt(y)
    let inside = false
    for (let i = 2 * ends[band]; i < 2 * ends[band + 1]; i += 2) {
      const [p, q] = [2 * pairs[i], 2 * pairs[i + 1]]
      const py = xyMm[p + 1]
      const qy = xyMm[q + 1]
      if (py > y !== qy > y && x < ((xyMm[q] - xyMm[p]) * (y - py)) / (qy - py) + xyMm[p]) inside = !inside
    }
    return inside
  }

  /** Sides by their ends, the earlier one second. */
  function eachSide(tell: (p: number, q: number) => void): void {
    for (let r = 0; r + 1 < starts.length; r++)
      for (let p = starts[r], q = starts[r + 1] - 1; p < starts[r + 1]; q = p++) tell(p, q)
  }
}
