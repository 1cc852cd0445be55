import type { Region } from './region'

/** About so many sides share a band. */
const SIDES_A_BAND = 6

type Contains = (x: number, y: number) => boolean

const known = new WeakMap<Region, Contains>()

/**
 * Whether places lie in a region, as `regionContains` tells, for many places of the same one: its sides are
 * sorted into bands of y, once, and a place is held against those of its own band alone.
 */
export function containment(region: Region): Contains {
  let contains = known.get(region)
  if (!contains) known.set(region, (contains = byBands(region)))
  return contains
}

function byBands({ xyMm, starts }: Region): Contains {
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
  // Counted first, then laid down band by band, from the end of each.
  const ends = new Uint32Array(bands + 1)
  eachInBand((band) => ends[band]++)
  for (let b = 1; b <= bands; b++) ends[b] += ends[b - 1]
  const pairs = new Uint32Array(2 * ends[bands])
  eachInBand((band, p, q) => {
    const at = 2 * --ends[band]
    pairs[at] = 2 * p
    pairs[at + 1] = 2 * q
  })
  return (x, y) => {
    if (y < low || y > high) return false
    const band = bandAt(y)
    let inside = false
    for (let i = 2 * ends[band]; i < 2 * ends[band + 1]; i += 2) {
      const p = pairs[i]
      const q = pairs[i + 1]
      const py = xyMm[p + 1]
      const qy = xyMm[q + 1]
      if (py > y !== qy > y && x < ((xyMm[q] - xyMm[p]) * (y - py)) / (qy - py) + xyMm[p]) inside = !inside
    }
    return inside
  }

  /** Each side in each band that it runs through, by the points at its ends. */
  function eachInBand(tell: (band: number, p: number, q: number) => void): void {
    for (let r = 0; r + 1 < starts.length; r++)
      for (let p = starts[r], q = starts[r + 1] - 1; p < starts[r + 1]; q = p++) {
        const [one, other] = [bandAt(xyMm[2 * p + 1]), bandAt(xyMm[2 * q + 1])]
        for (let b = Math.min(one, other); b <= Math.max(one, other); b++) tell(b, p, q)
      }
  }
}
