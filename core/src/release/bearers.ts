import { latticeCrossings, type Region } from '../polygon'
import type { StandGrid, StandPiece } from './standPieces'

/** Below an underside its stand is looked for in so many cells: a gap and a step of a slope lie between. */
const LOOK_DOWN = 3

/**
 * Which pieces carry an underside, and how much of it each, as shares that sum up to 1; none where nothing
 * stands below it.
 * Source: lines across the underside, a cell apart, each place of them carried by the first stand below it.
 * @param steps of each layer what of it hangs
 */
export function bearersOf(
  steps: ReadonlyMap<number, Region>,
  layers: readonly { readonly bottomMm: number }[],
  { nx, ny, nz, cellMm, originMm, pieces, pieceOf }: StandGrid,
): Map<StandPiece, number> {
  const carried = new Map<StandPiece, number>()
  let all = 0
  for (const [layer, region] of steps) {
    const highest = Math.ceil((layers[layer].bottomMm - originMm[2]) / cellMm) - 1
    const { first, starts, at } = latticeCrossings(region, 0, cellMm)
    for (let n = 0; n + 1 < starts.length; n++) {
      const j = Math.floor(first + n + 0.5 - originMm[1] / cellMm)
      for (let s = starts[n]; s + 1 < starts[n + 1]; s += 2) {
        const long = at[s + 1] - at[s]
        const places = Math.max(1, Math.round(long / cellMm))
        for (let p = 0; p < places; p++) {
          const i = Math.floor((at[s] + ((p + 0.5) * long) / places - originMm[0]) / cellMm)
          const piece = below(i, j, highest)
          if (piece < 0) continue
          carried.set(pieces[piece], (carried.get(pieces[piece]) ?? 0) + long / places)
          all += long / places
        }
      }
    }
  }
  for (const [piece, mm] of carried) carried.set(piece, mm / all)
  return carried

  function below(i: number, j: number, highest: number): number {
    if (i < 0 || j < 0 || i >= nx || j >= ny) return -1
    for (let k = Math.min(nz - 1, highest); k >= 0 && k > highest - LOOK_DOWN; k--) {
      const piece = pieceOf[(k * ny + j) * nx + i]
      if (piece >= 0) return piece
    }
    return -1
  }
}
