import { boundsOf, boundsOverlap, regionContains, type Bounds2, type Region } from './region'

const boxes = new WeakMap<Region, Bounds2>()
function boxOf(region: Region): Bounds2 {
  let box = boxes.get(region)
  if (!box) boxes.set(region, (box = boundsOf(region.xyMm)))
  return box
}

/**
 * Whether two shapes lie on each other somewhere, told by their corners: shapes that cross without a corner
 * in each other are not seen.
 */
export function touching(a: Region, b: Region): boolean {
  if (a === b) return true
  if (!boundsOverlap(boxOf(a), boxOf(b))) return false
  return holdsCorner(a, b) || holdsCorner(b, a)
}

function holdsCorner(region: Region, { xyMm }: Region): boolean {
  for (let p = 0; p < xyMm.length; p += 2) if (regionContains(region, xyMm[p], xyMm[p + 1])) return true
  return false
}
