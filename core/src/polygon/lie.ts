import { boundsOf, boundsOverlap, regionContains, ringCount, type Bounds2, type Region } from './region'
import { finerBands } from './sideBands'

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

/** How one piece lies to another; `unknown` where their sides cross or touch. */
export type Lie = 'within' | 'apart' | 'unknown'

/** Whether a piece lies wholly in another one, or wholly outside of it. */
export function lieOf(piece: Region, other: Region): Lie {
  if (piece === other) return 'within'
  // Where no sides meet, a ring lies in the other piece as a whole or not at all.
  if (sidesMeet(piece, other) || ringsIn(other, piece) > 0) return 'unknown'
  const inside = ringsIn(piece, other)
  return inside === 0 ? 'apart' : inside === ringCount(piece) ? 'within' : 'unknown'
}

/** Without the pieces that lie wholly in another one of them: what all of them cover stays the same. */
export function uncovered(pieces: readonly Region[]): readonly Region[] {
  const all = [...new Set(pieces)]
  const left = all.filter((piece) => !all.some((other) => other !== piece && wasWithin(piece, other)))
  return left.length === pieces.length ? pieces : left
}

/** Whether a piece lies wholly in another one and touches none of its sides. */
function isWithin(piece: Region, other: Region): boolean {
  const [inner, outer] = [boxOf(piece), boxOf(other)]
  return (
    inner.minX > outer.minX &&
    inner.minY > outer.minY &&
    inner.maxX < outer.maxX &&
    inner.maxY < outer.maxY &&
    regionContains(other, piece.xyMm[0], piece.xyMm[1]) &&
    lieOf(piece, other) === 'within'
  )
}

/** Whether nothing of one piece lies in another or touches it. */
export function areApart(a: Region, b: Region): boolean {
  if (a === b) return false
  if (!meet(a, b, 0)) return true
  // What lies on each other mostly shows at the first corners; only then every side is asked.
  return ringsIn(a, b) === 0 && ringsIn(b, a) === 0 && !sidesMeet(a, b)
}

/** An answer about two shapes, remembered: the next level or the next plan asks about them again. */
function remembered(ask: (a: Region, b: Region) => boolean): (a: Region, b: Region) => boolean {
  const asked = new WeakMap<Region, WeakMap<Region, boolean>>()
  return (a, b) => {
    let known = asked.get(a)
    if (!known) asked.set(a, (known = new WeakMap()))
    let answer = known.get(b)
    if (answer === undefined) known.set(b, (answer = ask(a, b)))
    return answer
  }
}

/** Whether nothing of one piece lies in another or touches it, remembered. */
export const wereApart = remembered(areApart)
const wasWithin = remembered(isWithin)

/** How many rings of one region begin in another one. */
function ringsIn({ xyMm, starts }: Region, other: Region): number {
  let inside = 0
  for (let r = 0; r + 1 < starts.length; r++)
    if (regionContains(other, xyMm[2 * starts[r]], xyMm[2 * starts[r] + 1])) inside++
  return inside
}

/** What is on a line is found this far from it at most, in mm times the length of the line: rounding. */
const ON_LINE_MM2 = 1e-9

/** Whether two ends lie on the same side of a line; one on the line lies on neither. */
const onOneSide = (a: number, b: number): boolean =>
  (a > ON_LINE_MM2 && b > ON_LINE_MM2) || (a < -ON_LINE_MM2 && b < -ON_LINE_MM2)

/** Up to about so many pairs of sides it is quicker to ask each than to sort them into bands. */
const FEW_PAIRS = 10_000

/** Whether a side of one region crosses or touches one of the other; `crossesSides` leaves touching out. */
function sidesMeet(a: Region, b: Region): boolean {
  const { minX, minY, maxX, maxY } = boxOf(b)
  const bands = a.xyMm.length * b.xyMm.length > 4 * FEW_PAIRS ? finerBands(b) : null
  const near = bands ? 0 : listNear(b, boxOf(a))
  const sides = bands ? bands.sides : listed
  for (let r = 0; r + 1 < a.starts.length; r++) {
    let x0 = a.xyMm[2 * a.starts[r + 1] - 2]
    let y0 = a.xyMm[2 * a.starts[r + 1] - 1]
    for (let p = 2 * a.starts[r]; p < 2 * a.starts[r + 1]; p += 2) {
      const x1 = a.xyMm[p]
      const y1 = a.xyMm[p + 1]
      if (!isAside(x0, y0, x1, y1, minX, minY, maxX, maxY)) {
        let from = 0
        let to = near
        if (bands) {
          const [one, other] = bands.along === 0 ? [x0, x1] : [y0, y1]
          from = bands.starts[bands.bandAt(Math.min(one, other))]
          to = bands.starts[bands.bandAt(Math.max(one, other)) + 1]
        }
        if (meetsOneOf(b.xyMm, sides, from, to, x0, y0, x1, y1)) return true
      }
      x0 = x1
      y0 = y1
    }
  }
  return false
}

/** Sides near a box, as where their ends stand in `xyMm`; reused. */
let listed = new Uint32Array(512)

/** Lists the sides of a region that are not aside of a box; says how many numbers they take. */
function listNear({ xyMm, starts }: Region, { minX, minY, maxX, maxY }: Bounds2): number {
  if (listed.length < xyMm.length) listed = new Uint32Array(2 * xyMm.length)
  let count = 0
  for (let r = 0; r + 1 < starts.length; r++) {
    let q = 2 * starts[r + 1] - 2
    for (let p = 2 * starts[r]; p < 2 * starts[r + 1]; p += 2) {
      if (!isAside(xyMm[p], xyMm[p + 1], xyMm[q], xyMm[q + 1], minX, minY, maxX, maxY)) {
        listed[count++] = p
        listed[count++] = q
      }
      q = p
    }
  }
  return count
}

/** Whether a straight piece crosses or touches one of the sides listed from here to there. */
function meetsOneOf(
  xyMm: Float64Array,
  sides: Uint32Array,
  start: number,
  end: number,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
): boolean {
  const dx = x1 - x0
  const dy = y1 - y0
  const minX = Math.min(x0, x1)
  const maxX = Math.max(x0, x1)
  const minY = Math.min(y0, y1)
  const maxY = Math.max(y0, y1)
  for (let i = start; i < end; i += 2) {
    const p = sides[i]
    const q = sides[i + 1]
    const px = xyMm[p]
    const py = xyMm[p + 1]
    const qx = xyMm[q]
    const qy = xyMm[q + 1]
    if (isAside(px, py, qx, qy, minX, minY, maxX, maxY)) continue
    const own = dx * (py - y0) - dy * (px - x0)
    const before = dx * (qy - y0) - dy * (qx - x0)
    if (onOneSide(own, before)) continue
    const ux = qx - px
    const uy = qy - py
    const from = ux * (y0 - py) - uy * (x0 - px)
    const to = ux * (y1 - py) - uy * (x1 - px)
    if (!onOneSide(from, to)) return true
  }
  return false
}
