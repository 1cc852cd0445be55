import type { Region } from './region'

/** Where the edges of a region cross parallel lines, line by line. */
export type LatticeCrossings = {
  /** Number of the first line on the lattice; line k lies (k + 0.5) spacings off the origin. */
  readonly first: number
  /** Line `first + k` is crossed at[starts[k]] to at[starts[k + 1] - 1], rising: in and out by turns. */
  readonly starts: Uint32Array
  readonly at: Float64Array
}

const NONE: LatticeCrossings = { first: 0, starts: new Uint32Array(1), at: new Float64Array(0) }

/** Height of points over the lattice of lines, in lines: whole numbers lie on one. */
export function latticeHeight(
  xyMm: Float64Array,
  angleDeg: number,
  spacingMm: number,
): (point: number) => number {
  const cos = Math.cos((angleDeg * Math.PI) / 180)
  const sin = Math.sin((angleDeg * Math.PI) / 180)
  return (p) => (-xyMm[2 * p] * sin + xyMm[2 * p + 1] * cos) / spacingMm - 0.5
}

/**
 * Crosses a region with parallel lines on a lattice fixed to the origin, so that layers stack.
 * @param angleDeg direction of the lines, 0 along x; crossings are told along it, in mm
 * @param spacingMm distance between neighbouring lines, > 0
 */
export function latticeCrossings(
  { xyMm, starts }: Region,
  angleDeg: number,
  spacingMm: number,
): LatticeCrossings {
  const cos = Math.cos((angleDeg * Math.PI) / 180)
  const sin = Math.sin((angleDeg * Math.PI) / 180)
  const points = xyMm.length / 2
  if (points === 0) return NONE
  const heightOf = latticeHeight(xyMm, angleDeg, spacingMm)
  // Turn the region so that the lines are level, then walk its edges once and note where each crosses a line.
  const u = new Float64Array(points)
  const v = new Float64Array(points)
  let low = Infinity
  let high = -Infinity
  for (let p = 0; p < points; p++) {
    u[p] = xyMm[2 * p] * cos + xyMm[2 * p + 1] * sin
    const across = heightOf(p)
    v[p] = across
    if (across < low) low = across
    if (across > high) high = across
  }
  const first = Math.ceil(low)
  const lines = Math.floor(high) - first + 1
  if (lines <= 0) return NONE
  const counts = new Uint32Array(lines + 1)
  const visit = (found: (line: number, at: number) => void) => {
    for (let r = 0; r + 1 < starts.length; r++) {
      let q = starts[r + 1] - 1
      for (let p = starts[r]; p < starts[r + 1]; q = p++) {
        const down = v[p] < v[q]
        const a = down ? p : q
        const b = down ? q : p
        // Half-open in v, so that a line through a corner meets exactly one of its two edges.
        const to = Math.ceil(v[b]) - 1
        for (let k = Math.ceil(v[a]); k <= to; k++)
          found(k - first, u[a] + ((u[b] - u[a]) * (k - v[a])) / (v[b] - v[a]))
      }
    }
  }
  visit((line) => counts[line + 1]++)
  for (let k = 0; k < lines; k++) counts[k + 1] += counts[k]
  const at = new Float64Array(counts[lines])
  const fill = counts.slice(0, lines)
  visit((line, place) => (at[fill[line]++] = place))
  for (let k = 0; k < lines; k++) at.subarray(counts[k], counts[k + 1]).sort()
  return { first, starts: counts, at }
}
