import type { Region } from './region'

/**
 * Whether a straight piece, from x0, y0 to x1, y1, crosses a side of a region, or passes one of its corners
 * nearer than so much.
 */
export function crossesSides(
  { xyMm, starts }: Region,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  nearMm = 0,
): boolean {
  const [dx, dy] = [x1 - x0, y1 - y0]
  const l2 = dx * dx + dy * dy || 1
  const [low, high] = y0 < y1 ? [y0, y1] : [y1, y0]
  for (let r = 0; r + 1 < starts.length; r++) {
    let qx = xyMm[2 * starts[r + 1] - 2]
    let qy = xyMm[2 * starts[r + 1] - 1]
    for (let p = 2 * starts[r]; p < 2 * starts[r + 1]; p += 2) {
      const px = xyMm[p]
      const py = xyMm[p + 1]
      if (nearMm > 0 && py > low - nearMm && py < high + nearMm) {
        const t = Math.max(0, Math.min(1, ((px - x0) * dx + (py - y0) * dy) / l2))
        if ((px - x0 - t * dx) ** 2 + (py - y0 - t * dy) ** 2 < nearMm * nearMm) return true
      }
      const aside = (py < low && qy < low) || (py > high && qy > high)
      if (!aside && dx * (qy - y0) - dy * (qx - x0) > 0 !== dx * (py - y0) - dy * (px - x0) > 0) {
        const ux = qx - px
        const uy = qy - py
        if (ux * (y0 - py) - uy * (x0 - px) > 0 !== ux * (y1 - py) - uy * (x1 - px) > 0) return true
      }
      qx = px
      qy = py
    }
  }
  return false
}
