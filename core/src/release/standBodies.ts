import { groups } from '../groups'
import { boundsOverlap, boxOf, splitPieces, wereApart, type Region } from '../polygon'
import type { Filled } from './standCells'

/** Heights are one where they agree to this share of a mm. */
const PER_MM = 1000

/**
 * What of some passes is one: what lies on each other, as printed.
 * @returns of each pass, for each of its pieces in the order they are split into, the number of what it
 *   belongs to
 */
export function standBodies(passes: readonly Filled[]): number[][] {
  const { add, unite, areOne, rootOf } = groups()
  type Placed = { readonly piece: Region; readonly of: Region; readonly number: number }
  const endingAt = new Map<number, Placed[]>()
  const numbers = passes.map(({ region }) => splitPieces(region).map(add))
  const rising = passes.map((_, n) => n).sort((a, b) => passes[a].bottomMm - passes[b].bottomMm)
  for (const n of rising) {
    const { region, bottomMm, topMm } = passes[n]
    const below = endingAt.get(Math.round(bottomMm * PER_MM)) ?? []
    const top = Math.round(topMm * PER_MM)
    const here = endingAt.get(top) ?? []
    endingAt.set(top, here)
    splitPieces(region).forEach((piece, p) => {
      const number = numbers[n][p]
      for (const other of below) {
        if (areOne(other.number, number) || !boundsOverlap(boxOf(other.piece), boxOf(piece), 0)) continue
        // Pieces of one outline lie on themselves, and on none of the others.
        const isOn = other.of === region ? other.piece === piece : !wereApart(other.piece, piece)
        if (isOn) unite(other.number, number)
      }
      here.push({ piece, of: region, number })
    })
  }
  return numbers.map((own) => own.map(rootOf))
}
