import { thinnedLine } from '../polygon'
import type { PathKind, PathWriter } from './toolPaths'

/** Widths along one line differ by no more than this share. */
const EVEN_FLOW = 0.1
/** And are wider by no more than this than where there is least room: they must not reach the part. */
const OVER_MM = 0.004
/** And stray no farther than this where points are left out. */
const THIN_MM = 0.002

/**
 * Adds a line whose width changes along it. A line is as wide along its whole length; where that changes,
 * another one goes on.
 * @param flow at each point, in widths
 */
export function addVarying(
  writer: PathWriter,
  kind: PathKind,
  xyMm: Float64Array,
  flow: Float64Array,
  lineWidthMm: number,
): void {
  let from = 0
  let [least, most] = [flow[0], flow[0]]
  for (let n = 1; n < flow.length; n++) {
    const [low, high] = [Math.min(least, flow[n]), Math.max(most, flow[n])]
    if (high - low > EVEN_FLOW) {
      add(from, n)
      from = n - 1
      ;[least, most] = [Math.min(flow[n - 1], flow[n]), Math.max(flow[n - 1], flow[n])]
    } else [least, most] = [low, high]
  }
  add(from, flow.length)

  function add(first: number, end: number): void {
    if (end - first < 2) return
    let least = Infinity
    let sum = 0
    for (let n = first; n < end; n++) {
      least = Math.min(least, flow[n])
      sum += flow[n]
    }
    const thin = thinnedLine(xyMm.subarray(2 * first, 2 * end), THIN_MM)
    const even = Math.min(sum / (end - first), least + OVER_MM / lineWidthMm)
    writer.add(kind, thin, 0, thin.length / 2, false, even)
  }
}
