import type { Region } from '../polygon'

/** Distance in mm from a point to the nearest outline of a region; Infinity when it has none. */
export function distanceToSides(region: Region, x: number, y: number): number {
  let best = Infinity
  const { xyMm, starts } = region
  for (let r = 0; r + 1 < starts.length; r++) {
    let q = starts[r + 1] - 1
    for (let p = starts[r]; p < starts[r + 1]; q = p++) {
      const ax = xyMm[2 * q]
      const ay = xyMm[2 * q + 1]
      const ux = xyMm[2 * p] - ax
      const uy = xyMm[2 * p + 1] - ay
      const t = Math.max(0, Math.min(1, ((x - ax) * ux + (y - ay) * uy) / (ux * ux + uy * uy || 1)))
      const d = (ax + t * ux - x) ** 2 + (ay + t * uy - y) ** 2
      if (d < best) best = d
    }
  }
  return Math.sqrt(best)
}
