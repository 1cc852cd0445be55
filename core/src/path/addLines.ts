import type { Region, Segments } from '../polygon'
import { crossesSides, ringCount } from '../polygon'
import type { PathKind, PathWriter } from './toolPaths'

/** No plastic comes of a line this short, only a stop. */
const DOT_MM = 0.05

/** Adds the rings of a region as closed lines, always going on with the one that starts nearest. */
export function addRings(writer: PathWriter, kind: PathKind, region: Region): void {
  const rings = ringCount(region)
  const done = new Uint8Array(rings)
  for (let n = 0; n < rings; n++) {
    let best = Infinity
    let pick = -1
    for (let r = 0; r < rings; r++) {
      if (done[r]) continue
      const p = region.starts[r] * 2
      const d = (region.xyMm[p] - writer.lastX) ** 2 + (region.xyMm[p + 1] - writer.lastY) ** 2
      if (d < best) {
        best = d
        pick = r
      }
    }
    done[pick] = 1
    writer.add(kind, region.xyMm, region.starts[pick], region.starts[pick + 1] - region.starts[pick], true)
  }
}

/**
 * Lines whose ends are this near are tied, where the tie stays in a region. Without one nothing can lie
 * between ends that near.
 */
export type Tie = {
  readonly mm: number
  readonly within?: Region
  /** So far from the corners of that region. */
  readonly clearMm?: number
  /** Ends that are not tied go on by so much. */
  readonly reachMm?: number
}

/**
 * Adds hatch lines in their order. With a tie, the end of one line is joined to the start of the next when
 * they are near and nothing lies between: what is tied across a slot would be laid through it.
 */
export function addSegments(writer: PathWriter, kind: PathKind, segments: Segments, tie?: Tie): void {
  const count = segments.length / 4
  let from = 0
  for (let s = 1; s <= count; s++) {
    if (s < count && tie) {
      const endX = segments[4 * s - 2]
      const endY = segments[4 * s - 1]
      const x = segments[4 * s]
      const y = segments[4 * s + 1]
      const isNear = Math.hypot(x - endX, y - endY) <= tie.mm
      if (isNear && !(tie.within && crossesSides(tie.within, endX, endY, x, y, tie.clearMm))) continue
    }
    const first = from
    from = s
    if (s - first === 1 && isDot(segments, first)) continue
    const run = tie?.reachMm ? reaching(segments.slice(4 * first, 4 * s), tie.reachMm) : null
    if (run) writer.add(kind, run, 0, run.length / 2, false)
    else writer.add(kind, segments, first * 2, (s - first) * 2, false)
  }
}

/** Whether a line has no length to speak of: where it only just meets a corner. */
const isDot = (segments: Segments, s: number): boolean =>
  Math.abs(segments[4 * s + 2] - segments[4 * s]) < DOT_MM &&
  Math.abs(segments[4 * s + 3] - segments[4 * s + 1]) < DOT_MM

/** Lines joined to one, longer by a distance at both of its ends. */
function reaching(xyMm: Float64Array, mm: number): Float64Array {
  for (const [end, before] of [
    [0, 2],
    [xyMm.length - 2, xyMm.length - 4],
  ]) {
    const [dx, dy] = [xyMm[end] - xyMm[before], xyMm[end + 1] - xyMm[before + 1]]
    const length = Math.hypot(dx, dy)
    if (length === 0) continue
    xyMm[end] += (dx / length) * mm
    xyMm[end + 1] += (dy / length) * mm
  }
  return xyMm
}
