import type { Region, Segments } from '../polygon'
import { ringCount } from '../polygon'
import type { PathKind, PathWriter } from './toolPaths'

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
 * Adds hatch lines in their order; with `joinMm`, the end of one line is joined to the start of the next when
 * they are that near.
 */
export function addSegments(writer: PathWriter, kind: PathKind, segments: Segments, joinMm = 0): void {
  const count = segments.length / 4
  let from = 0
  for (let s = 1; s <= count; s++) {
    const joined =
      s < count &&
      joinMm > 0 &&
      Math.hypot(segments[4 * s] - segments[4 * s - 2], segments[4 * s + 1] - segments[4 * s - 1]) <= joinMm
    if (joined) continue
    writer.add(kind, segments, from * 2, (s - from) * 2, false)
    from = s
  }
}
