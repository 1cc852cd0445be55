import { firstFrom } from '../firstFrom'
import { groups } from '../groups'
import { boundsOverlap, boxOf, splitPieces, wereApart, type Bounds2, type Region } from '../polygon'
import type { Filled } from './standCells'

/** Heights are one where they agree to this share of a mm. */
const PER_MM = 1000

/** A piece of an outline. */
type Placed = {
  readonly piece: Region
  readonly of: Region
  readonly number: number
  readonly box: Bounds2
}

/**
 * What of some passes is one: what lies on each other, as printed.
 * @returns of each pass, for each of its pieces in the order they are split into, the number of what it
 *   belongs to
 */
export function standBodies(passes: readonly Filled[]): number[][] {
  const { add, unite, areOne, rootOf } = groups()
  const endingAt = new Map<number, Placed[]>()
  const numbers = passes.map(({ region, topMm }) => {
    const top = Math.round(topMm * PER_MM)
    const here = endingAt.get(top) ?? []
    endingAt.set(top, here)
    return splitPieces(region).map((piece) => {
      const number = add()
      here.push({ piece, of: region, number, box: boxOf(piece) })
      return number
    })
  })
  const levels = new Map([...endingAt].map(([top, placed]) => [top, meeting(placed)]))
  passes.forEach(({ region, bottomMm }, n) => {
    const below = levels.get(Math.round(bottomMm * PER_MM))
    if (below)
      splitPieces(region).forEach((piece, p) =>
        below(boxOf(piece), (other) => {
          if (areOne(other.number, numbers[n][p])) return
          // Pieces of one outline lie on themselves, and on none of the others.
          const isOn = other.of === region ? other.piece === piece : !wereApart(other.piece, piece)
          if (isOn) unite(other.number, numbers[n][p])
        }),
      )
  })
  return numbers.map((own) => own.map(rootOf))
}

/** Those of some pieces whose box meets another one: found by where they begin. */
function meeting(placed: readonly Placed[]) {
  const sorted = placed.toSorted((a, b) => a.box.minX - b.box.minX)
  const begins = Float64Array.from(sorted, ({ box }) => box.minX)
  const widest = Math.max(...sorted.map(({ box }) => box.maxX - box.minX))
  return (box: Bounds2, visit: (one: Placed) => void) => {
    for (
      let n = firstFrom(begins, box.minX - widest);
      n < sorted.length && sorted[n].box.minX <= box.maxX;
      n++
    )
      if (boundsOverlap(sorted[n].box, box, 0)) visit(sorted[n])
  }
}
