import { PATH_KINDS, type ToolPaths } from '../path'
import type { Motion } from './motion'
import { CLEAR_MM, isLifted, liftTimeS, wipeAfter } from './moveRules'

export type PathMeasure = {
  /** Per kind. */
  readonly lengthMm: Float64Array
  /** Length of usual lines that hold as much plastic. */
  readonly laidMm: number
  readonly travelMm: number
  readonly timeS: number
}

/**
 * Length per kind, travel and time of a set of paths printed in order.
 *
 * Along a path the speed rises and falls with the acceleration and slows at corners so that the sudden change
 * stays within cornerMmS.
 * Source: v = jump / (2 sin(turn / 2)) at corners; v1^2 = v0^2 + 2 a s between them; trapezoid of speed over
 * each straight.
 */
export function measurePaths(paths: ToolPaths, motion: Motion): PathMeasure {
  const lengthMm = new Float64Array(PATH_KINDS.length)
  let travelMm = 0
  let laidMm = 0
  let timeS = 0
  const { xyMm, starts, kinds, flow } = paths
  let lengths = new Float64Array(64)
  let corner = new Float64Array(65)
  for (let p = 0; p < kinds.length; p++) {
    const from = starts[p]
    const count = starts[p + 1] - from - 1
    if (p > 0) {
      const [x, y] = [xyMm[2 * from], xyMm[2 * from + 1]]
      const gap = Math.hypot(x - xyMm[2 * from - 2], y - xyMm[2 * from - 1])
      if (isLifted(gap)) {
        const way = liftedWay(paths, p - 1, [x, y], motion)
        travelMm += way.lengthMm
        timeS += way.timeS + motion.retractS + 2 * liftTimeS(CLEAR_MM)
      } else {
        travelMm += gap
        timeS += straightTime(gap, 0, 0, motion.travelMmS, motion.accelMmS2)
      }
    }
    if (count < 1) continue
    if (lengths.length < count) {
      lengths = new Float64Array(count * 2)
      corner = new Float64Array(count * 2 + 1)
    }
    const cruise = motion.speedsMmS[kinds[p]]
    let px = 0
    let py = 0
    corner[0] = 0
    for (let s = 0; s < count; s++) {
      const at = 2 * (from + s)
      const dx = xyMm[at + 2] - xyMm[at]
      const dy = xyMm[at + 3] - xyMm[at + 1]
      const length = Math.hypot(dx, dy)
      lengths[s] = length
      lengthMm[kinds[p]] += length
      laidMm += length * flow[p]
      const ux = length > 0 ? dx / length : px
      const uy = length > 0 ? dy / length : py
      if (s > 0) {
        // 2 sin(turn / 2) is the length of the difference of the two directions.
        const turn = Math.hypot(ux - px, uy - py)
        corner[s] = turn < 1e-9 ? cruise : Math.min(cruise, motion.cornerMmS / turn)
      }
      px = ux
      py = uy
    }
    corner[count] = 0
    for (let s = 0; s < count; s++)
      corner[s + 1] = Math.min(corner[s + 1], Math.sqrt(corner[s] ** 2 + 2 * motion.accelMmS2 * lengths[s]))
    for (let s = count - 1; s >= 0; s--) {
      corner[s] = Math.min(corner[s], Math.sqrt(corner[s + 1] ** 2 + 2 * motion.accelMmS2 * lengths[s]))
      timeS += straightTime(lengths[s], corner[s], corner[s + 1], cruise, motion.accelMmS2)
    }
  }
  return { lengthMm, laidMm, travelMm, timeS }
}

/**
 * A way with the filament drawn back: first the wipe, then straight on; every straight of it from rest to
 * rest.
 */
export function liftedWay(
  from: ToolPaths,
  p: number,
  [x, y]: readonly [number, number],
  { wipeMm, travelMmS, accelMmS2 }: Pick<Motion, 'wipeMm' | 'travelMmS' | 'accelMmS2'>,
): { readonly lengthMm: number; readonly timeS: number } {
  const { xyMm: way, straightsMm } = wipeAfter(from, p, wipeMm)
  const last = 2 * (from.starts[p + 1] - 1)
  const [fromX, fromY] = way.length > 0 ? way.slice(-2) : [from.xyMm[last], from.xyMm[last + 1]]
  const left = Math.hypot(x - fromX, y - fromY)
  let [lengthMm, timeS] = [left, straightTime(left, 0, 0, travelMmS, accelMmS2)]
  for (const straight of straightsMm) {
    lengthMm += straight
    timeS += straightTime(straight, 0, 0, travelMmS, accelMmS2)
  }
  return { lengthMm, timeS }
}

/** Time for one straight, entered and left at given speeds. */
export function straightTime(
  lengthMm: number,
  inMmS: number,
  outMmS: number,
  cruiseMmS: number,
  accelMmS2: number,
): number {
  if (lengthMm <= 0) return 0
  const peak = Math.min(cruiseMmS, Math.sqrt(accelMmS2 * lengthMm + (inMmS * inMmS + outMmS * outMmS) / 2))
  const ramp = (2 * peak * peak - inMmS * inMmS - outMmS * outMmS) / (2 * accelMmS2)
  return (2 * peak - inMmS - outMmS) / accelMmS2 + Math.max(0, lengthMm - ramp) / peak
}
