import { ringAreaMm2, type Region } from './region'

let keep = new Uint8Array(1024)
let stack = new Int32Array(256)

/**
 * The same outlines with fewer points: none that is left out lies farther than the tolerance from the line
 * that goes past it. Rings that keep no area are left out. Quicker than asking the engine, which has to be
 * given the points and give them back.
 * Source: Ramer, Douglas, Peucker; each ring is halved at its point farthest from the first.
 */
export function thinned(region: Region, toleranceMm: number): Region {
  const { xyMm, starts } = region
  const points = xyMm.length / 2
  if (points > keep.length) keep = new Uint8Array(points * 2)
  keep.fill(0, 0, points)
  let kept = 0
  for (let r = 0; r + 1 < starts.length; r++) kept += thinRing(xyMm, starts[r], starts[r + 1], toleranceMm)
  if (kept === points) return region
  const xy = new Float64Array(2 * kept)
  const ends: number[] = [0]
  let size = 0
  for (let r = 0; r + 1 < starts.length; r++) {
    const from = size
    for (let p = starts[r]; p < starts[r + 1]; p++)
      if (keep[p]) {
        xy[size++] = xyMm[2 * p]
        xy[size++] = xyMm[2 * p + 1]
      }
    if ((size - from) / 2 < 3 || ringAreaMm2(xy, from / 2, size / 2) === 0) size = from
    else ends.push(size / 2)
  }
  return { xyMm: xy.subarray(0, size), starts: Uint32Array.from(ends) }
}

/** The same for an open line of x, y. */
export function thinnedLine(xy: Float64Array, toleranceMm: number): Float64Array {
  const points = xy.length / 2
  if (points < 3) return xy
  if (points > keep.length) keep = new Uint8Array(points * 2)
  keep.fill(0, 0, points)
  keep[0] = keep[points - 1] = 1
  const kept = 2 + thinRun(xy, 0, points - 1, 0, points, toleranceMm)
  if (kept === points) return xy
  const thin = new Float64Array(2 * kept)
  let size = 0
  for (let p = 0; p < points; p++)
    if (keep[p]) {
      thin[size++] = xy[2 * p]
      thin[size++] = xy[2 * p + 1]
    }
  return thin
}

/** Marks the points of one ring that stay; returns how many. */
function thinRing(xy: Float64Array, from: number, to: number, toleranceMm: number): number {
  let far = from
  let most = -1
  const [x0, y0] = [xy[2 * from], xy[2 * from + 1]]
  for (let p = from + 1; p < to; p++) {
    const d = (xy[2 * p] - x0) ** 2 + (xy[2 * p + 1] - y0) ** 2
    if (d > most) {
      most = d
      far = p
    }
  }
  keep[from] = 1
  if (far === from) return 1
  keep[far] = 1
  // The ring's end is its first point again.
  return 2 + thinRun(xy, from, far, from, to, toleranceMm) + thinRun(xy, far, to, from, to, toleranceMm)
}

/** Thins the run a..b; point `to` of the ring stands for its first. */
function thinRun(
  xy: Float64Array,
  a: number,
  b: number,
  from: number,
  to: number,
  toleranceMm: number,
): number {
  const limit = toleranceMm * toleranceMm
  let marked = 0
  let depth = 0
  stack[depth++] = a
  stack[depth++] = b
  while (depth > 0) {
    const end = stack[--depth]
    const start = stack[--depth]
    if (end - start < 2) continue
    const last = end === to ? from : end
    const [ax, ay] = [xy[2 * start], xy[2 * start + 1]]
    const [ux, uy] = [xy[2 * last] - ax, xy[2 * last + 1] - ay]
    const length2 = ux * ux + uy * uy
    let most = limit
    let pick = -1
    for (let p = start + 1; p < end; p++) {
      const px = xy[2 * p] - ax
      const py = xy[2 * p + 1] - ay
      const t = length2 > 0 ? Math.max(0, Math.min(1, (px * ux + py * uy) / length2)) : 0
      const dx = px - t * ux
      const dy = py - t * uy
      const d = dx * dx + dy * dy
      if (d > most) {
        most = d
        pick = p
      }
    }
    if (pick < 0) continue
    keep[pick] = 1
    marked++
    if (depth + 4 > stack.length) {
      const larger = new Int32Array(stack.length * 2)
      larger.set(stack)
      stack = larger
    }
    stack[depth++] = start
    stack[depth++] = pick
    stack[depth++] = pick
    stack[depth++] = end
  }
  return marked
}
