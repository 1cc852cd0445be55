import { boxOf } from './lie'
import { boundsAround, type Bounds2, type Region } from './region'

/** What touches a box is not outside of it. */
const ASIDE_MM = 1e-3
/** Outlines of fewer corners are taken as they are. */
const WORTH_IT = 48

/**
 * An outline that is the same within a box, and has few corners outside of it: a run of corners that lie on
 * one side of the box is drawn straight, as none of its sides meets the box. Rings may cross outside.
 * Source: outcodes, as for clipping lines.
 * @returns the region itself where there is little to leave out
 */
export function nearBox(region: Region, box: Bounds2): Region {
  const { xyMm, starts } = region
  const codes = new Uint8Array(xyMm.length / 2)
  let outside = 0
  for (let p = 0; p < codes.length; p++) {
    const x = xyMm[2 * p]
    const y = xyMm[2 * p + 1]
    const code =
      (x < box.minX - ASIDE_MM ? 1 : x > box.maxX + ASIDE_MM ? 2 : 0) |
      (y < box.minY - ASIDE_MM ? 4 : y > box.maxY + ASIDE_MM ? 8 : 0)
    codes[p] = code
    if (code !== 0) outside++
  }
  if (4 * outside < codes.length) return region
  const kept = new Float64Array(xyMm.length)
  const ends: number[] = [0]
  let size = 0
  for (let r = 0; r + 1 < starts.length; r++) {
    const begin = size
    /** The sides of the box that all corners since the last kept one lie beyond. */
    let beyond = 0
    for (let p = starts[r]; p < starts[r + 1]; p++) {
      const next = p + 1 < starts[r + 1] ? p + 1 : starts[r]
      beyond &= codes[p]
      if ((beyond & codes[next]) !== 0) continue
      kept[size++] = xyMm[2 * p]
      kept[size++] = xyMm[2 * p + 1]
      beyond = codes[p]
    }
    if (size - begin >= 6) ends.push(size / 2)
    else size = begin
  }
  return { xyMm: kept.slice(0, size), starts: Uint32Array.from(ends) }
}

/** What of some outlines matters for others: each as it is near all of those. */
export function nearTo(others: readonly Region[], regions: readonly Region[]): readonly Region[] {
  if (!regions.some(({ xyMm }) => xyMm.length >= 2 * WORTH_IT)) return regions
  const box = boundsAround(others.map(boxOf))
  return regions.map((region) => (region.xyMm.length < 2 * WORTH_IT ? region : nearBox(region, box)))
}
