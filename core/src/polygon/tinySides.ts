import { regionFromRings, ringCount, ringOf, type Region } from './region'

/** Shorter sides than this come from the grid and from cuts that nearly meet. */
const TINY_MM = 3e-3

/**
 * A region without sides of hardly any length: beside a corner that points inwards the engine makes a spike
 * of one when it shrinks an outline, as long as that is shrunk by. A region that has none is given back as it
 * is.
 */
export function withoutTinySides(region: Region): Region {
  const { xyMm, starts } = region
  let found = false
  for (let r = 0; r + 1 < starts.length && !found; r++)
    for (let p = starts[r], q = starts[r + 1] - 1; p < starts[r + 1] && !found; q = p++)
      found = isTiny(xyMm[2 * q], xyMm[2 * q + 1], xyMm[2 * p], xyMm[2 * p + 1])
  if (!found) return region
  return regionFromRings(Array.from({ length: ringCount(region) }, (_, r) => withoutThem(ringOf(region, r))))
}

function withoutThem(ring: Float64Array): Float64Array {
  const kept: number[] = []
  let [x, y] = ring.subarray(-2)
  for (let i = 0; i < ring.length; i += 2) {
    if (isTiny(x, y, ring[i], ring[i + 1])) continue
    ;[x, y] = [ring[i], ring[i + 1]]
    kept.push(x, y)
  }
  return kept.length < 6 ? ring : Float64Array.from(kept)
}

const isTiny = (ax: number, ay: number, bx: number, by: number): boolean =>
  Math.abs(bx - ax) < TINY_MM && Math.abs(by - ay) < TINY_MM
