import { boxOf, containment, isEmptyRegion, type Region } from '../polygon'
import type { Filled } from './standCells'

export type Place = readonly [number, number, number]

/**
 * Whether any of a part lies on the straight line between two places, however little: its outlines are
 * crossed layer by layer.
 * @param layers from the bed up
 */
export function isPartBetween(layers: readonly Filled[], a: Place, b: Place): boolean {
  const [low, high] = a[2] <= b[2] ? [a, b] : [b, a]
  const rise = high[2] - low[2]
  for (let k = firstAbove(layers, low[2]); k < layers.length && layers[k].bottomMm <= high[2]; k++) {
    const { region, bottomMm, topMm } = layers[k]
    if (isEmptyRegion(region)) continue
    const shareAt = (z: number) => (rise > 0 ? Math.min(1, Math.max(0, (z - low[2]) / rise)) : 0)
    const [from, to] = rise > 0 ? [shareAt(bottomMm), shareAt(topMm)] : [0, 1]
    const at = (share: number, axis: 0 | 1) => low[axis] + share * (high[axis] - low[axis])
    if (crosses(region, at(from, 0), at(from, 1), at(to, 0), at(to, 1))) return true
  }
  return false
}

/** The lowest layer that ends above a height. */
function firstAbove(layers: readonly Filled[], z: number): number {
  let [from, to] = [0, layers.length]
  while (from < to) {
    const k = (from + to) >> 1
    if (layers[k].topMm > z) to = k
    else from = k + 1
  }
  return from
}

/** Whether a straight line in a layer begins in a region, or crosses one of its sides. */
function crosses(region: Region, ax: number, ay: number, bx: number, by: number): boolean {
  const [low, high] = [Math.min(ay, by), Math.max(ay, by)]
  const { minX, minY, maxX, maxY } = boxOf(region)
  if (Math.max(ax, bx) < minX || Math.min(ax, bx) > maxX || high < minY || low > maxY) return false
  if (containment(region)(ax, ay)) return true
  if (ax === bx && ay === by) return false
  const { xyMm, starts } = region
  /** On which side of the line a place lies. */
  const asideOf = (x: number, y: number) => (bx - ax) * (y - ay) - (by - ay) * (x - ax) > 0
  for (let r = 0; r + 1 < starts.length; r++) {
    let [px, py] = [xyMm[2 * starts[r + 1] - 2], xyMm[2 * starts[r + 1] - 1]]
    for (let i = 2 * starts[r]; i < 2 * starts[r + 1]; i += 2) {
      const qx = xyMm[i]
      const qy = xyMm[i + 1]
      if ((py >= low || qy >= low) && (py <= high || qy <= high) && asideOf(px, py) !== asideOf(qx, qy)) {
        const from = (qx - px) * (ay - py) - (qy - py) * (ax - px)
        const to = (qx - px) * (by - py) - (qy - py) * (bx - px)
        if (from > 0 !== to > 0) return true
      }
      px = qx
      py = qy
    }
  }
  return false
}
