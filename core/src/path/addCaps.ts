import { latticeHeight, ringAreaMm2, type Region } from '../polygon'
import type { PathKind, PathWriter } from './toolPaths'

/**
 * Adds what of a rim lies beyond the last of the lines that fill it: from one end of that line around to its
 * other one. Without walls nothing else would lie there, and what comes above would hang. A ring that no line
 * meets is laid as a whole.
 * @param rim outline on which the lines end
 * @param angleDeg direction of the lines, on the lattice of `hatch`
 * @param leastMm a rim no farther from its line than this is left out: the line itself is there
 */
export function addCaps(
  writer: PathWriter,
  kind: PathKind,
  rim: Region,
  angleDeg: number,
  spacingMm: number,
  leastMm: number,
): void {
  const { xyMm, starts } = rim
  const lineAt = latticeHeight(xyMm, angleDeg, spacingMm)
  for (let r = 0; r + 1 < starts.length; r++) {
    const [first, end] = [starts[r], starts[r + 1]]
    if (meetsLines(first, end)) continue
    // A hole between two lines needs nothing around it.
    if (ringAreaMm2(xyMm, first, end) > 0) writer.add(kind, xyMm, first, end - first, true)
  }

  /** Adds the caps of one ring; false when no line meets it. */
  function meetsLines(first: number, end: number): boolean {
    const size = end - first
    // Points since the line that was met last, how far away from it they are, and which one it was.
    const points: number[] = []
    let depth = 0
    let met = NaN
    // Twice around, up to where the first line was met.
    for (let n = 0; n < 2 * size; n++) {
      const p = first + (n % size)
      const q = first + ((n + 1) % size)
      const [vp, vq] = [lineAt(p), lineAt(q)]
      const [from, to] = [Math.ceil(vp) - 1, Math.ceil(vq) - 1]
      const step = to > from ? 1 : -1
      for (let s = from; s !== to; s += step) {
        const line = step > 0 ? s + 1 : s
        const t = (line - vp) / (vq - vp)
        const x = xyMm[2 * p] + t * (xyMm[2 * q] - xyMm[2 * p])
        const y = xyMm[2 * p + 1] + t * (xyMm[2 * q + 1] - xyMm[2 * p + 1])
        if (line === met && depth * spacingMm > leastMm) {
          points.push(x, y)
          writer.add(kind, Float64Array.from(points), 0, points.length / 2, false)
        }
        if (n >= size) return true
        met = line
        depth = 0
        points.length = 0
        points.push(x, y)
      }
      if (points.length > 0) {
        points.push(xyMm[2 * q], xyMm[2 * q + 1])
        depth = Math.max(depth, Math.abs(vq - met))
      }
    }
    return false
  }
}
