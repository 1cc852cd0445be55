/**
 * An area of the plane: rings of points, outer rings counter-clockwise, holes clockwise, none crossing. Point
 * p: xyMm[2p], xyMm[2p+1]. Ring r holds points starts[r] .. starts[r+1]-1; starts has one entry more than
 * there are rings.
 */
export type Region = { readonly xyMm: Float64Array; readonly starts: Uint32Array }

export type Bounds2 = {
  readonly minX: number
  readonly minY: number
  readonly maxX: number
  readonly maxY: number
}

export const EMPTY_REGION: Region = { xyMm: new Float64Array(0), starts: new Uint32Array(1) }

/**
 * A frame around anything that can be printed, running clockwise: laid over outlines that are counted, it
 * takes one from every count.
 */
export const BACKWARD_FRAME: Region = {
  xyMm: Float64Array.of(-2e5, -2e5, -2e5, 2e5, 2e5, 2e5, 2e5, -2e5),
  starts: Uint32Array.of(0, 4),
}

export const ringCount = (region: Region): number => region.starts.length - 1
export const isEmptyRegion = (region: Region): boolean => region.starts.length < 2

/** Builds a region from rings given as [x, y, x, y, ...]. */
export function regionFromRings(rings: readonly ArrayLike<number>[]): Region {
  const starts = new Uint32Array(rings.length + 1)
  rings.forEach((ring, r) => (starts[r + 1] = starts[r] + ring.length / 2))
  const xyMm = new Float64Array(starts[rings.length] * 2)
  rings.forEach((ring, r) => xyMm.set(ring, starts[r] * 2))
  return { xyMm, starts }
}

/** A box as a region, larger by so much along x and y, to either side. */
export function boxRegion({ minX, minY, maxX, maxY }: Bounds2, xMm = 0, yMm = xMm): Region {
  const [left, right, low, high] = [minX - xMm, maxX + xMm, minY - yMm, maxY + yMm]
  return regionFromRings([[left, low, right, low, right, high, left, high]])
}

/** One ring as its own flat list of coordinates (a view, not a copy). */
export const ringOf = (region: Region, ring: number): Float64Array =>
  region.xyMm.subarray(region.starts[ring] * 2, region.starts[ring + 1] * 2)

/** Signed area of one flat ring in mm2: positive when counter-clockwise. Source: shoelace formula. */
export function ringAreaMm2(xyMm: ArrayLike<number>, from = 0, to = xyMm.length / 2): number {
  let twice = 0
  if (to - from < 3) return 0
  let px = xyMm[2 * (to - 1)]
  let py = xyMm[2 * (to - 1) + 1]
  for (let p = from; p < to; p++) {
    const x = xyMm[2 * p]
    const y = xyMm[2 * p + 1]
    twice += px * y - x * py
    px = x
    py = y
  }
  return twice / 2
}

/** Area of a region in mm2, holes taken off. */
export function regionAreaMm2(region: Region): number {
  let area = 0
  for (let r = 0; r < ringCount(region); r++)
    area += ringAreaMm2(region.xyMm, region.starts[r], region.starts[r + 1])
  return area
}

/** Sum of the lengths of all rings in mm. */
export function regionPerimeterMm(region: Region): number {
  let length = 0
  for (let r = 0; r < ringCount(region); r++) {
    let q = region.starts[r + 1] - 1
    for (let p = region.starts[r]; p < region.starts[r + 1]; q = p++) {
      const dx = region.xyMm[2 * p] - region.xyMm[2 * q]
      const dy = region.xyMm[2 * p + 1] - region.xyMm[2 * q + 1]
      // Math.hypot guards against overflow that millimetres never reach, at ten times the cost.
      length += Math.sqrt(dx * dx + dy * dy)
    }
  }
  return length
}

/**
 * Smallest upright rectangle around points from..to-1; empty input gives an inside-out rectangle that
 * overlaps nothing.
 */
export function boundsOf(xyMm: Float64Array, from = 0, to = xyMm.length / 2): Bounds2 {
  let minX = Infinity
  let minY = Infinity
  let maxX = -Infinity
  let maxY = -Infinity
  for (let p = from; p < to; p++) {
    const x = xyMm[2 * p]
    const y = xyMm[2 * p + 1]
    if (x < minX) minX = x
    if (x > maxX) maxX = x
    if (y < minY) minY = y
    if (y > maxY) maxY = y
  }
  return { minX, minY, maxX, maxY }
}

/** Smallest rectangle around several; of none, or of empty ones alone, an inside-out one. */
export function boundsAround(boxes: Iterable<Bounds2>): Bounds2 {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const box of boxes) {
    minX = Math.min(minX, box.minX)
    minY = Math.min(minY, box.minY)
    maxX = Math.max(maxX, box.maxX)
    maxY = Math.max(maxY, box.maxY)
  }
  return { minX, minY, maxX, maxY }
}

export const boundsOverlap = (a: Bounds2, b: Bounds2, marginMm = 0): boolean =>
  a.minX <= b.maxX + marginMm &&
  b.minX <= a.maxX + marginMm &&
  a.minY <= b.maxY + marginMm &&
  b.minY <= a.maxY + marginMm

/**
 * Whether a point lies inside (even-odd over all rings, which for a clean region is inside and not in a
 * hole).
 */
export function regionContains(region: Region, x: number, y: number): boolean {
  let inside = false
  const { xyMm, starts } = region
  for (let r = 0; r + 1 < starts.length; r++) {
    let q = starts[r + 1] - 1
    for (let p = starts[r]; p < starts[r + 1]; q = p++) {
      const py = xyMm[2 * p + 1]
      const qy = xyMm[2 * q + 1]
      if (py > y !== qy > y && x < ((xyMm[2 * q] - xyMm[2 * p]) * (y - py)) / (qy - py) + xyMm[2 * p])
        inside = !inside
    }
  }
  return inside
}

/** Two regions with the same points in the same order: what a prism gives layer after layer. */
export function sameRegion(a: Region, b: Region): boolean {
  if (a === b) return true
  if (a.xyMm.length !== b.xyMm.length || a.starts.length !== b.starts.length) return false
  for (let i = 0; i < a.starts.length; i++) if (a.starts[i] !== b.starts[i]) return false
  for (let i = 0; i < a.xyMm.length; i++) if (a.xyMm[i] !== b.xyMm[i]) return false
  return true
}
