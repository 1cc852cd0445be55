import type { Segments } from '../polygon'
import { addVarying } from './addVarying'
import type { PathKind, PathWriter } from './toolPaths'

/** Lines no longer than this many widths are short. */
const SHORT = 2
/** A line along short ones is no wider than this many widths. */
const WIDEST = 1.5
/** Of so many at least is a line made: fewer are laid as they are. */
const FEWEST = 3
/** What would be narrower, or shorter, than this many widths is no line. */
const NARROWEST = 0.4

/**
 * Adds the lines that fill an area. Where they are short and lie side by side, as in a strip along a slope,
 * one line runs along them instead, through their middles, with as much plastic: hundreds of dots would each
 * cost a way to the next.
 * @param laid as `hatch` orders them: what lies beside a line on the next row comes next
 */
export function addGathered(
  writer: PathWriter,
  kind: PathKind,
  laid: Segments,
  spacingMm: number,
  lineWidthMm: number,
): void {
  const segments = withoutDots(laid, lineWidthMm)
  const count = segments.length / 4
  const lengthOf = (s: number) =>
    Math.hypot(segments[4 * s + 2] - segments[4 * s], segments[4 * s + 3] - segments[4 * s + 1])
  const isShort = (s: number) => s < count && lengthOf(s) <= SHORT * lineWidthMm
  for (let s = 0; s < count;) {
    let end = s + 1
    if (isShort(s)) while (isShort(end) && areBeside(segments, end - 1, end, spacingMm, lineWidthMm)) end++
    if (end - s >= FEWEST) addAlong(s, end)
    else for (let one = s; one < end; one++) addOne(one)
    s = end
  }

  function addOne(s: number): void {
    writer.add(kind, segments, 2 * s, 2, false)
  }

  /** One line along those from `first` on. */
  function addAlong(first: number, end: number): void {
    const size = end - first
    const middles = new Float64Array(2 * size)
    for (let n = 0, at = 4 * first; n < size; n++, at += 4) {
      middles[2 * n] = (segments[at] + segments[at + 2]) / 2
      middles[2 * n + 1] = (segments[at + 1] + segments[at + 3]) / 2
    }
    const flow = new Float64Array(size)
    for (let n = 0; n < size; n++) {
      const [before, after] = [Math.max(0, n - 1), Math.min(size - 1, n + 1)]
      const ux = middles[2 * after] - middles[2 * before]
      const uy = middles[2 * after + 1] - middles[2 * before + 1]
      const at = 4 * (first + n)
      const across = (segments[at + 2] - segments[at]) * uy - (segments[at + 3] - segments[at + 1]) * ux
      flow[n] = Math.abs(across) / (Math.hypot(ux, uy) || 1) / spacingMm
    }
    // Where it would be too wide for one line, or too narrow, pieces are laid as they are.
    let from = 0
    for (let n = 0; n <= size; n++) {
      const fits = n < size && flow[n] >= NARROWEST && flow[n] <= WIDEST
      if (fits) continue
      if (n - from > 1)
        addVarying(writer, kind, middles.subarray(2 * from, 2 * n), flow.subarray(from, n), lineWidthMm)
      else if (n > from) addOne(first + from)
      if (n < size) addOne(first + n)
      from = n + 1
    }
  }
}

/** Lines that are long enough to be lines. */
export function withoutDots(segments: Segments, lineWidthMm: number): Segments {
  const least2 = (NARROWEST * lineWidthMm) ** 2
  const kept = new Float64Array(segments.length)
  let size = 0
  for (let s = 0; s < segments.length; s += 4) {
    const ux = segments[s + 2] - segments[s]
    const uy = segments[s + 3] - segments[s + 1]
    if (ux * ux + uy * uy < least2) continue
    for (let n = 0; n < 4; n++) kept[size++] = segments[s + n]
  }
  return kept.subarray(0, size)
}

/** Whether two lines of a pattern lie side by side, on rows next to each other. */
function areBeside(
  segments: Segments,
  a: number,
  b: number,
  spacingMm: number,
  lineWidthMm: number,
): boolean {
  const ax = segments[4 * a]
  const ay = segments[4 * a + 1]
  const ux = segments[4 * a + 2] - ax
  const uy = segments[4 * a + 3] - ay
  const length = Math.sqrt(ux * ux + uy * uy)
  if (length === 0) return false
  const [bx, by] = [segments[4 * b] - ax, segments[4 * b + 1] - ay]
  if (Math.abs(Math.abs(bx * uy - by * ux) / length - spacingMm) > 1e-6) return false
  const from = (bx * ux + by * uy) / length
  const to = ((segments[4 * b + 2] - ax) * ux + (segments[4 * b + 3] - ay) * uy) / length
  // Between two strips there are two rings: what is nearer lies in the same one.
  return Math.min(from, to) < length + lineWidthMm && Math.max(from, to) > -lineWidthMm
}
