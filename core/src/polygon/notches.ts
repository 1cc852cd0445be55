import type { Region } from './region'
import { sideBands } from './sideBands'

/**
 * A region without its small notches: an inward corner that lies no deeper than `depthMm` behind its
 * neighbours is left out where those are near each other, of neighbouring ones every second. Nothing that
 * belongs to the region is lost, and nothing is filled that holds a corner of something else.
 */
export function withoutNotches(region: Region, depthMm: number): Region {
  const { xyMm, starts } = region
  const points = xyMm.length / 2
  let left: Uint8Array | null = null
  let gone = 0
  for (let r = 0; r + 1 < starts.length; r++) {
    const [from, to] = [starts[r], starts[r + 1]]
    let count = to - from
    let a = to - 1
    for (let b = from; b < to; b++) {
      const c = b + 1 === to ? from : b + 1
      if (count > 3 && !left?.[c] && isNotch(region, a, b, c, depthMm)) {
        left ??= new Uint8Array(points)
        left[b] = 1
        count--
        gone++
        // The corner after it stays, so that a round inward side is not eaten up.
        b++
        a = c
        if (c === from) break
      } else a = b
    }
  }
  if (!left) return region
  const xy = new Float64Array(2 * (points - gone))
  const ends = new Uint32Array(starts.length)
  let size = 0
  for (let r = 0; r + 1 < starts.length; r++) {
    for (let p = starts[r]; p < starts[r + 1]; p++)
      if (!left[p]) {
        xy[size++] = xyMm[2 * p]
        xy[size++] = xyMm[2 * p + 1]
      }
    ends[r + 1] = size / 2
  }
  return { xyMm: xy, starts: ends }
}

/** Of up to so many corners each is asked, of more those in the bands of the notch. */
const FEW = 100

/** Notches wider than this many times their depth are the shape of a region, and stay. */
const MOUTH = 7

/** Whether b lies behind a and c, near enough, with nothing between them. The inside is on the left. */
function isNotch(region: Region, a: number, b: number, c: number, depthMm: number): boolean {
  const { xyMm } = region
  const [ax, ay, bx, by] = [xyMm[2 * a], xyMm[2 * a + 1], xyMm[2 * b], xyMm[2 * b + 1]]
  const [cx, cy] = [xyMm[2 * c], xyMm[2 * c + 1]]
  const [ux, uy] = [cx - ax, cy - ay]
  const mouth2 = ux * ux + uy * uy
  if (mouth2 > (MOUTH * depthMm) ** 2) return false
  const across = ux * (by - ay) - uy * (bx - ax)
  // b to the left of a -> c: the way turns right there.
  if (across <= 0 || across * across > depthMm * depthMm * mouth2) return false
  const along = ux * (bx - ax) + uy * (by - ay)
  if (along < 0 || along > mouth2) return false
  const [minX, maxX] = [Math.min(ax, bx, cx), Math.max(ax, bx, cx)]
  const [minY, maxY] = [Math.min(ay, by, cy), Math.max(ay, by, cy)]
  const fills = (p: number): boolean => {
    const x = xyMm[p]
    const y = xyMm[p + 1]
    if (x < minX || x > maxX || y < minY || y > maxY) return false
    if ((x === ax && y === ay) || (x === bx && y === by) || (x === cx && y === cy)) return false
    const side = (px: number, py: number, qx: number, qy: number) =>
      (qx - px) * (y - py) - (qy - py) * (x - px)
    // The triangle a, c, b runs to the left.
    return side(ax, ay, cx, cy) >= 0 && side(cx, cy, bx, by) >= 0 && side(bx, by, ax, ay) >= 0
  }
  if (xyMm.length <= 2 * FEW) {
    for (let p = 0; p < xyMm.length; p += 2) if (fills(p)) return false
    return true
  }
  // Every corner ends a side, and so stands in the band that it lies in.
  const { bandAt, starts, sides } = sideBands(region, 1)
  const last = starts[bandAt(maxY) + 1]
  for (let i = starts[bandAt(minY)]; i < last; i += 2) if (fills(sides[i])) return false
  return true
}
