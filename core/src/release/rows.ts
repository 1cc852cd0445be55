import { latticeCrossings, type Region } from '../polygon'
import { slicesOf } from './slices'
import type { Filled } from './standCells'

/** Where lines along x cross a part, line by line: in and out by turns. */
export type Row = { readonly starts: Uint32Array; readonly at: Float64Array; readonly first: number }
export const NO_WALLS: Row = { first: 0, starts: new Uint32Array(1), at: new Float64Array(0) }

/** Where rows meet the part, slice by slice from the bed. */
export function rowsOf(layers: readonly Filled[], rowMm: number, count: number): Row[] {
  const crossed = new Map<Region | null, Row>([[null, NO_WALLS]])
  return slicesOf(layers, rowMm, count, 0).seen.map((region) => {
    const known = crossed.get(region) ?? withThinWalls(latticeCrossings(region!, 0, rowMm), region!, rowMm)
    crossed.set(region, known)
    return known
  })
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
  const lines = rows.starts.length - 1
  const low = Math.min(rows.first, ...walls.keys())
  const high = Math.max(rows.first + lines - 1, ...walls.keys())
  const merged = Array.from({ length: high - low + 1 }, (_, n) => {
    const line = low + n - rows.first
    const own =
      line < 0 || line >= lines ? [] : [...rows.at.subarray(rows.starts[line], rows.starts[line + 1])]
    return united([...own, ...(walls.get(low + n) ?? [])])
  })
  const sums = new Uint32Array(merged.length + 1)
  merged.forEach((row, n) => (sums[n + 1] = sums[n] + row.length))
  return { first: low, starts: sums, at: Float64Array.from(merged.flat()) }
}

/** Stretches from one place to another by turns, without those that meet others; rising. */
function united(stretches: readonly number[]): number[] {
  const sorted = Array.from({ length: stretches.length / 2 }, (_, n) => [
    stretches[2 * n],
    stretches[2 * n + 1],
  ])
  const found: number[] = []
  for (const [from, to] of sorted.toSorted(([a], [b]) => a - b))
    if (found.length > 0 && from <= found.at(-1)!) found.push(Math.max(found.pop()!, to))
    else found.push(from, to)
  return found
}
