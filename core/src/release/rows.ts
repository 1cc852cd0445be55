import { latticeCrossings, type Region } from '../polygon'
import { slicesOf, unseenBetween } from './slices'
import type { Filled } from './standCells'

/** Where lines along x cross a part, line by line: in and out by turns. */
export type Row = { readonly starts: Uint32Array; readonly at: Float64Array; readonly first: number }
export const NO_WALLS: Row = { first: 0, starts: new Uint32Array(1), at: new Float64Array(0) }

/** Where rows meet a part, slice by slice: from the one below the bed to the one above all. */
export type SlicedRows = {
  readonly seen: readonly Row[]
  /** What lies between each slice and the next and is shown by neither. */
  readonly between: readonly Row[]
}

/**
 * Where rows along x meet a part.
 * @param rowMm how far they are from each other, to the back and upwards
 * @param count slices from the bed to the top
 */
export function rowsOf(layers: readonly Filled[], rowMm: number, count: number): SlicedRows {
  const crossed = new Map<Region, Row>()
  const crossing = (region: Region) => {
    const known = crossed.get(region) ?? withThinWalls(latticeCrossings(region, 0, rowMm), region, rowMm)
    crossed.set(region, known)
    return known
  }
  const slices = slicesOf(layers, rowMm, count + 2, 1)
  return {
    seen: slices.seen.map((region) => (region ? crossing(region) : NO_WALLS)),
    between: unseenBetween(layers, slices).map((regions) => united(regions.map(crossing))),
  }
}

/** Rows with what lies between two of them: a thin wall along them is seen by lines across. */
function withThinWalls(rows: Row, region: Region, rowMm: number): Row {
  const { first, starts, at } = latticeCrossings(region, 90, rowMm)
  const walls = new Map<number, number[]>()
  for (let n = 0; n + 1 < starts.length; n++)
    for (let s = starts[n]; s + 1 < starts[n + 1]; s += 2) {
      const [low, high] = [at[s] / rowMm - 0.5, at[s + 1] / rowMm - 0.5]
      if (Math.ceil(low) <= high) continue
      // Turned by a quarter, lines count against x.
      const x = -(first + n) - 1
      const row = Math.round((low + high) / 2)
      walls.set(row, [...(walls.get(row) ?? []), x * rowMm, (x + 1) * rowMm])
    }
  if (walls.size === 0) return rows
  const low = Math.min(...walls.keys())
  const lines = Array.from(
    { length: Math.max(...walls.keys()) - low + 1 },
    (_, n) => walls.get(low + n) ?? [],
  )
  const sums = new Uint32Array(lines.length + 1)
  lines.forEach((line, n) => (sums[n + 1] = sums[n] + line.length))
  return united([rows, { first: low, starts: sums, at: Float64Array.from(lines.flat()) }])
}

/** What any of some rows have, rising and without stretches that meet others. */
function united(rows: readonly Row[]): Row {
  if (rows.length < 2) return rows[0] ?? NO_WALLS
  let [low, high, most] = [Infinity, -Infinity, 0]
  for (const { first, starts, at } of rows) {
    if (at.length === 0) continue
    low = Math.min(low, first)
    high = Math.max(high, first + starts.length - 1)
    most += at.length
  }
  if (most === 0) return NO_WALLS
  const starts = new Uint32Array(high - low + 1)
  const at = new Float64Array(most)
  const [froms, tos]: number[][] = [[], []]
  let size = 0
  for (let line = low; line < high; line++) {
    let count = 0
    for (const row of rows) {
      const n = line - row.first
      if (n < 0 || n + 1 >= row.starts.length) continue
      for (let s = row.starts[n]; s + 1 < row.starts[n + 1]; s += 2) {
        let i = count++
        for (; i > 0 && froms[i - 1] > row.at[s]; i--) [froms[i], tos[i]] = [froms[i - 1], tos[i - 1]]
        froms[i] = row.at[s]
        tos[i] = row.at[s + 1]
      }
    }
    const begin = size
    for (let i = 0; i < count; i++)
      if (size > begin && froms[i] <= at[size - 1]) at[size - 1] = Math.max(at[size - 1], tos[i])
      else {
        at[size++] = froms[i]
        at[size++] = tos[i]
      }
    starts[line - low + 1] = size
  }
  return { first: low, starts, at: at.subarray(0, size) }
}
