import type { Region } from './region'

/** Line pieces in the order of printing: piece s runs from xyMm[4s], xyMm[4s+1] to xyMm[4s+2], xyMm[4s+3]. */
export type Segments = Float64Array

/** Height of points over the lattice of `hatch`, in lines: whole numbers lie on one. */
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
 * Parallel lines across a region, on a lattice fixed to the origin so that layers stack. Lines beside each
 * other are walked to and fro, region by region, which keeps the travels between them short.
 * @param angleDeg direction of the lines, 0 along x
 * @param spacingMm distance between neighbouring lines, > 0
 * @param trimMm taken off both ends, for the half line that the wall already covers; pieces that vanish are
 * dropped
 */
export function hatch(region: Region, angleDeg: number, spacingMm: number, trimMm = 0): Segments {
  const { xyMm, starts } = region
  const cos = Math.cos((angleDeg * Math.PI) / 180)
  const sin = Math.sin((angleDeg * Math.PI) / 180)
  const points = xyMm.length / 2
  if (points === 0) return new Float64Array(0)
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
        for (let k = Math.ceil(v[a]); k <= to; k++)
          found(k - first, u[a] + ((u[b] - u[a]) * (k - v[a])) / (v[b] - v[a]))
      }
    }
  }
  visit((line) => counts[line + 1]++)
  for (let k = 0; k < lines; k++) counts[k + 1] += counts[k]
  const crossings = new Float64Array(counts[lines])
  const fill = counts.slice(0, lines)
  visit((line, at) => (crossings[fill[line]++] = at))

  // Pieces in level coordinates: from, to along the line, and the line they lie on.
  const from = new Float64Array(crossings.length / 2)
  const to = new Float64Array(crossings.length / 2)
  const row = new Int32Array(crossings.length / 2)
  let pieces = 0
  for (let k = 0; k < lines; k++) {
    const line = crossings.subarray(counts[k], counts[k + 1]).sort()
    for (let i = 0; i + 1 < line.length; i += 2) {
      if (line[i + 1] - line[i] - 2 * trimMm <= 1e-6) continue
      from[pieces] = line[i] + trimMm
      to[pieces] = line[i + 1] - trimMm
      row[pieces++] = k
    }
  }
  const out = new Float64Array(pieces * 4)
  let size = 0
  for (const { piece, backwards } of zigzag(runsOf(from, to, row, pieces), from, to, row, spacingMm)) {
    const height = (row[piece] + first + 0.5) * spacingMm
    const s = backwards ? to[piece] : from[piece]
    const e = backwards ? from[piece] : to[piece]
    out[size++] = s * cos - height * sin
    out[size++] = s * sin + height * cos
    out[size++] = e * cos - height * sin
    out[size++] = e * sin + height * cos
  }
  return out
}

/**
 * Gathers pieces into runs: each piece of a run lies beside the one before on the next line, and beside no
 * other.
 */
function runsOf(from: Float64Array, to: Float64Array, row: Int32Array, pieces: number): number[][] {
  const runs: number[][] = []
  const runOf = new Int32Array(pieces)
  const beside = (a: number, b: number) => from[a] < to[b] && from[b] < to[a]
  let below = 0
  let start = 0
  while (start < pieces) {
    let end = start
    while (end < pieces && row[end] === row[start]) end++
    const follows = start > below && row[below] === row[start] - 1
    for (let piece = start; piece < end; piece++) {
      let only = -1
      let neighbours = 0
      if (follows) for (let q = below; q < start; q++) if (beside(piece, q) && ++neighbours) only = q
      let shared = false
      if (neighbours === 1)
        for (let other = start; other < end; other++)
          if (other !== piece && beside(other, only)) shared = true
      if (neighbours === 1 && !shared) runs[(runOf[piece] = runOf[only])].push(piece)
      else runOf[piece] = runs.push([piece]) - 1
    }
    below = start
    start = end
  }
  return runs
}

/**
 * Walks each run to and fro and goes on with the run whose nearest corner is closest: the travels between
 * lines stay short.
 */
function* zigzag(
  runs: number[][],
  from: Float64Array,
  to: Float64Array,
  row: Int32Array,
  spacingMm: number,
): Generator<{ piece: number; backwards: boolean }> {
  const left = runs.slice()
  let u = -Infinity
  let v = -Infinity
  while (left.length > 0) {
    let best = Infinity
    let pick = 0
    let upwards = true
    let backwards = false
    for (let r = 0; r < left.length && u > -Infinity; r++)
      for (let corner = 0; corner < 4; corner++) {
        const piece = corner & 1 ? left[r].at(-1)! : left[r][0]
        const d = (u - (corner & 2 ? to[piece] : from[piece])) ** 2 + (v - row[piece] * spacingMm) ** 2
        if (d >= best) continue
        best = d
        pick = r
        upwards = !(corner & 1)
        backwards = Boolean(corner & 2)
      }
    const [run] = left.splice(pick, 1)
    for (let i = 0; i < run.length; i++, backwards = !backwards) {
      const piece = upwards ? run[i] : run[run.length - 1 - i]
      yield { piece, backwards }
      u = backwards ? from[piece] : to[piece]
      v = row[piece] * spacingMm
    }
  }
}
