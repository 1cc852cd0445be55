import { boundsOf, boundsOverlap, regionContains, ringCount, type Bounds2, type Region } from './region'

const boxes = new WeakMap<Region, Bounds2>()

/** The bounds of a region, worked out once. */
export function boxOf(region: Region): Bounds2 {
  let box = boxes.get(region)
  if (!box) boxes.set(region, (box = boundsOf(region.xyMm)))
  return box
}

/** Whether two pieces may come within a margin of each other. Never false when they do. */
export function meet(a: Region, b: Region, marginMm: number): boolean {
  return reaches(a, boxOf(b), marginMm) && reaches(b, boxOf(a), marginMm)
}

/** Whether a region has a side in a box, or the box in it. */
function reaches(region: Region, box: Bounds2, marginMm: number): boolean {
  if (!boundsOverlap(boxOf(region), box, marginMm)) return false
  const [minX, minY, maxX, maxY] = [
    box.minX - marginMm,
    box.minY - marginMm,
    box.maxX + marginMm,
    box.maxY + marginMm,
  ]
  const { xyMm, starts } = region
  for (let r = 0; r + 1 < starts.length; r++) {
    let ax = xyMm[2 * starts[r + 1] - 2]
    let ay = xyMm[2 * starts[r + 1] - 1]
    for (let p = 2 * starts[r]; p < 2 * starts[r + 1]; p += 2) {
      const bx = xyMm[p]
      const by = xyMm[p + 1]
      if (!isAside(ax, ay, bx, by, minX, minY, maxX, maxY)) return true
      ax = bx
      ay = by
    }
  }
  return regionContains(region, minX, minY)
}

/** Whether a straight piece lies wholly on one side of a box. */
const isAside = (
  ax: number,
  ay: number,
  bx: number,
  by: number,
  minX: number,
  minY: number,
  maxX: number,
  maxY: number,
): boolean =>
  (ax < minX && bx < minX) || (ax > maxX && bx > maxX) || (ay < minY && by < minY) || (ay > maxY && by > maxY)

/** How one piece lies to another; `unknown` where their sides cross or it would take long to say. */
export type Lie = 'within' | 'apart' | 'unknown'

/** From about so many pairs of sides on the engine is as quick, where none of them can be passed over. */
const MOST_PAIRS = 3_000

/** Whether a piece lies wholly in another one, or wholly outside of it. */
export function lieOf(piece: Region, other: Region): Lie {
  if (piece === other) return 'within'
  if (piece.xyMm.length * other.xyMm.length > 4 * MOST_PAIRS || sidesMeet(piece, other)) return 'unknown'
  // No sides meet. Corners that lie on a side all but for rounding disagree with the others.
  if (cornersIn(other, piece) > 0) return 'unknown'
  const inside = cornersIn(piece, other)
  return inside === 0 ? 'apart' : 2 * inside === piece.xyMm.length ? 'within' : 'unknown'
}

/** Whether nothing of one piece lies in another or touches it. */
export function areApart(a: Region, b: Region): boolean {
  if (a === b) return false
  if (!meet(a, b, 0)) return true
  // What lies on each other mostly shows at the first corners; only then every side is asked.
  return !hasRingIn(a, b) && !hasRingIn(b, a) && !sidesMeet(a, b)
}

/** Whether a ring of one region begins in another; where sides do not meet, it lies there as a whole. */
function hasRingIn({ xyMm, starts }: Region, other: Region): boolean {
  for (let r = 0; r + 1 < starts.length; r++)
    if (regionContains(other, xyMm[2 * starts[r]], xyMm[2 * starts[r] + 1])) return true
  return false
}

const asked = new WeakMap<Region, WeakMap<Region, boolean>>()

/** The same, remembered: for shapes that the next plan asks about again. */
export function wereApart(a: Region, b: Region): boolean {
  let known = asked.get(a)
  if (!known) asked.set(a, (known = new WeakMap()))
  let apart = known.get(b)
  if (apart === undefined) known.set(b, (apart = areApart(a, b)))
  return apart
}

/** How many corners of one piece lie in another. */
function cornersIn({ xyMm }: Region, other: Region): number {
  const { minX, minY, maxX, maxY } = boxOf(other)
  let inside = 0
  for (let p = 0; p < xyMm.length; p += 2) {
    const x = xyMm[p]
    const y = xyMm[p + 1]
    if (x >= minX && x <= maxX && y >= minY && y <= maxY && regionContains(other, x, y)) inside++
  }
  return inside
}

/** What is on a line is found this far from it at most, in mm times the length of the line: rounding. */
const ON_LINE_MM2 = 1e-9

/** Whether two ends lie on the same side of a line; one on the line lies on neither. */
const onOneSide = (a: number, b: number): boolean =>
  (a > ON_LINE_MM2 && b > ON_LINE_MM2) || (a < -ON_LINE_MM2 && b < -ON_LINE_MM2)

/** Sides near the other region, as x, y of both ends by turns; reused. */
let nearSide = new Float64Array(1024)

/** Whether a side of one region crosses or touches one of the other; `crossesSides` leaves touching out. */
function sidesMeet(a: Region, b: Region): boolean {
  const count = sidesNear(b, boxOf(a))
  if (count === 0) return false
  const { minX, minY, maxX, maxY } = boxOf(b)
  for (let r = 0; r < ringCount(a); r++) {
    let q = a.starts[r + 1] - 1
    for (let p = a.starts[r]; p < a.starts[r + 1]; q = p++) {
      const [x0, y0, x1, y1] = [a.xyMm[2 * q], a.xyMm[2 * q + 1], a.xyMm[2 * p], a.xyMm[2 * p + 1]]
      if (!isAside(x0, y0, x1, y1, minX, minY, maxX, maxY) && meetsOneOf(count, x0, y0, x1, y1)) return true
    }
  }
  return false
}

/** Puts the sides of a region that are not aside of a box into the list; says how many numbers they take. */
function sidesNear({ xyMm, starts }: Region, { minX, minY, maxX, maxY }: Bounds2): number {
  if (nearSide.length < 2 * xyMm.length) nearSide = new Float64Array(4 * xyMm.length)
  let count = 0
  for (let r = 0; r + 1 < starts.length; r++) {
    let qx = xyMm[2 * starts[r + 1] - 2]
    let qy = xyMm[2 * starts[r + 1] - 1]
    for (let i = 2 * starts[r]; i < 2 * starts[r + 1]; i += 2) {
      const px = xyMm[i]
      const py = xyMm[i + 1]
      if (!isAside(px, py, qx, qy, minX, minY, maxX, maxY)) {
        nearSide[count++] = px
        nearSide[count++] = py
        nearSide[count++] = qx
        nearSide[count++] = qy
      }
      qx = px
      qy = py
    }
  }
  return count
}

/** Whether a straight piece crosses or touches one of the listed sides. */
function meetsOneOf(count: number, x0: number, y0: number, x1: number, y1: number): boolean {
  const [dx, dy] = [x1 - x0, y1 - y0]
  const minX = Math.min(x0, x1)
  const maxX = Math.max(x0, x1)
  const minY = Math.min(y0, y1)
  const maxY = Math.max(y0, y1)
  for (let i = 0; i < count; i += 4) {
    const px = nearSide[i]
    const py = nearSide[i + 1]
    const qx = nearSide[i + 2]
    const qy = nearSide[i + 3]
    if (isAside(px, py, qx, qy, minX, minY, maxX, maxY)) continue
    const own = dx * (py - y0) - dy * (px - x0)
    const before = dx * (qy - y0) - dy * (qx - x0)
    if (onOneSide(own, before)) continue
    const ux = qx - px
    const uy = qy - py
    const start = ux * (y0 - py) - uy * (x0 - px)
    const end = ux * (y1 - py) - uy * (x1 - px)
    if (!onOneSide(start, end)) return true
  }
  return false
}
