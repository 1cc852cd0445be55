import type { Region } from './region'

/** Whether a straight piece, from x0, y0 to x1, y1, crosses a side of a region. */
export function crossesSides(
  { xyMm, starts }: Region,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
): boolean {
  const [dx, dy] = [x1 - x0, y1 - y0]
  const side = (x: number, y: number) => dx * (y - y0) - dy * (x - x0) > 0
  for (let r = 0; r + 1 < starts.length; r++) {
    let q = starts[r + 1] - 1
    let other = side(xyMm[2 * q], xyMm[2 * q + 1])
    for (let p = starts[r]; p < starts[r + 1]; q = p++) {
      const [px, py] = [xyMm[2 * p], xyMm[2 * p + 1]]
      const own = side(px, py)
      if (own !== other) {
        const [ux, uy] = [xyMm[2 * q] - px, xyMm[2 * q + 1] - py]
        if (ux * (y0 - py) - uy * (x0 - px) > 0 !== ux * (y1 - py) - uy * (x1 - px) > 0) return true
      }
      other = own
    }
  }
  return false
}
