import type { Region } from './region'

/** Whether a point lies within a distance of some side of a region. */
export function nearSides(region: Region, x: number, y: number, withinMm: number): boolean {
  const { xyMm, starts } = region
  for (let r = 0; r + 1 < starts.length; r++) {
    let ax = xyMm[2 * starts[r + 1] - 2] - x
    let ay = xyMm[2 * starts[r + 1] - 1] - y
    for (let p = 2 * starts[r]; p < 2 * starts[r + 1]; p += 2) {
      const bx = xyMm[p] - x
      const by = xyMm[p + 1] - y
      const aside =
        (ax > withinMm && bx > withinMm) ||
        (ax < -withinMm && bx < -withinMm) ||
        (ay > withinMm && by > withinMm) ||
        (ay < -withinMm && by < -withinMm)
      if (!aside) {
        const ux = bx - ax
        const uy = by - ay
        const t = Math.max(0, Math.min(1, -(ax * ux + ay * uy) / (ux * ux + uy * uy || 1)))
        if ((ax + t * ux) ** 2 + (ay + t * uy) ** 2 <= withinMm * withinMm) return true
      }
      ax = bx
      ay = by
    }
  }
  return false
}
