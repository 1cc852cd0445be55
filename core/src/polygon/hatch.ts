import type { Region } from './region'

/** Line pieces: piece s runs from xyMm[4s], xyMm[4s+1] to xyMm[4s+2], xyMm[4s+3]; pieces of one hatch line follow each other. */
export type Segments = Float64Array

/**
 * Parallel lines across a region, on a lattice fixed to the origin so that layers stack.
 * Lines run every other way round (boustrophedon), which keeps the travels between them short.
 * @param angleDeg direction of the lines, 0 along x
 * @param spacingMm distance between neighbouring lines, > 0
 * @param trimMm taken off both ends, for the half line that the wall already covers; pieces that vanish are dropped
 */
export function hatch(region: Region, angleDeg: number, spacingMm: number, trimMm = 0): Segments {
  const { xyMm, starts } = region
  const cos = Math.cos((angleDeg * Math.PI) / 180)
  const sin = Math.sin((angleDeg * Math.PI) / 180)
  const points = xyMm.length / 2
  if (points === 0) return new Float64Array(0)
  // Turn the region so that the lines are level, then walk its edges once and note where each crosses a line.
  const u = new Float64Array(points)
  const v = new Float64Array(points)
  let low = Infinity
  let high = -Infinity
  for (let p = 0; p < points; p++) {
    u[p] = xyMm[2 * p] * cos + xyMm[2 * p + 1] * sin
    const across = (-xyMm[2 * p] * sin + xyMm[2 * p + 1] * cos) / spacingMm - 0.5
    v[p] = across
    if (across < low) low = across
    if (across > high) high = across
  }
  const first = Math.ceil(low)
  const lines = Math.floor(high) - first + 1
  if (lines <= 0) return new Float64Array(0)
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
        for (let k = Math.ceil(v[a]); k <= to; k++) found(k - first, u[a] + ((u[b] - u[a]) * (k - v[a])) / (v[b] - v[a]))
      }
    }
  }
  visit((line) => counts[line + 1]++)
  for (let k = 0; k < lines; k++) counts[k + 1] += counts[k]
  const crossings = new Float64Array(counts[lines])
  const fill = counts.slice(0, lines)
  visit((line, at) => (crossings[fill[line]++] = at))

  const out = new Float64Array(crossings.length * 2)
  let size = 0
  for (let k = 0; k < lines; k++) {
    const row = crossings.subarray(counts[k], counts[k + 1]).sort()
    const height = (k + first + 0.5) * spacingMm
    const backwards = (k + first) & 1
    for (let i = 0; i + 1 < row.length; i += 2) {
      const at = backwards ? row.length - 2 - i : i
      const from = row[at] + trimMm
      const to = row[at + 1] - trimMm
      if (to - from <= 1e-6) continue
      const s = backwards ? to : from
      const e = backwards ? from : to
      out[size++] = s * cos - height * sin
      out[size++] = s * sin + height * cos
      out[size++] = e * cos - height * sin
      out[size++] = e * sin + height * cos
    }
  }
  return out.slice(0, size)
}
