import { latticeCrossings } from './latticeCrossings'
import type { Region } from './region'

/** Line pieces in the order of printing: piece s runs from xyMm[4s], xyMm[4s+1] to xyMm[4s+2], xyMm[4s+3]. */
export type Segments = Float64Array

/**
 * Parallel lines across a region, on a lattice fixed to the origin so that layers stack. Lines beside each
 * other are walked to and fro, region by region, which keeps the travels between them short.
 * @param angleDeg direction of the lines, 0 along x
 * @param spacingMm distance between neighbouring lines, > 0
 * @param trimMm taken off both ends, for the half line that the wall already covers; pieces that vanish are
 * dropped
 */
export function hatch(region: Region, angleDeg: number, spacingMm: number, trimMm = 0): Segments {
  const cos = Math.cos((angleDeg * Math.PI) / 180)
  const sin = Math.sin((angleDeg * Math.PI) / 180)
  const { first, starts, at } = latticeCrossings(region, angleDeg, spacingMm)

  // Pieces in level coordinates: from, to along the line, and the line they lie on.
  const from = new Float64Array(at.length / 2)
  const to = new Float64Array(at.length / 2)
  const row = new Int32Array(at.length / 2)
  let pieces = 0
  for (let k = 0; k + 1 < starts.length; k++)
    for (let i = starts[k]; i + 1 < starts[k + 1]; i += 2) {
      if (at[i + 1] - at[i] - 2 * trimMm <= 1e-6) continue
      from[pieces] = at[i] + trimMm
      to[pieces] = at[i + 1] - trimMm
      row[pieces++] = k
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
