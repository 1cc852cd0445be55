import type { Place } from './between'
import type { NarrowWay } from './narrowWays'
import { openingsOf } from './openings'
import type { Filled } from './standCells'
import { wallsOf, type Walls } from './walls'

/** So many cells lie in the width of a way, if that are not too many in all. */
const CELLS_IN_WIDTH = 10
const MOST_CELLS = 1.5e5
/** Wider cells tell no more than that a tool gets through. */
const FEWEST_IN_WIDTH = 4
/** What is looked at reaches so many widths beyond the narrowest part of a way. */
const BEYOND = 1
/** Around the middle of a tool that fits at least so many of its widths are free, however rough its rows. */
const SURELY_FREE = 0.35

/** How wide a way is: its narrowest part on a grid of its own; null where none is seen there. */
export function widthOf(
  { neckMm, innerMm, outerMm, fitsMm, tooWideMm }: NarrowWay,
  layers: readonly Filled[],
): number | null {
  const beyondMm = BEYOND * tooWideMm
  const corner = (pick: (...values: number[]) => number, byMm: number) =>
    [0, 1, 2].map((axis) => pick(...neckMm.map((at) => at[axis])) + byMm) as [number, number, number]
  const within = { fromMm: corner(Math.min, -beyondMm), toMm: corner(Math.max, beyondMm) }
  const finestMm = fitsMm / CELLS_IN_WIDTH
  const walls = wallsOf(layers, { cells: Infinity, finestMm, mostCells: MOST_CELLS }, within)
  if (walls.cellMm > fitsMm / FEWEST_IN_WIDTH) return fitsMm
  // The tool that gets through is free all along.
  const sideOf = (wider: Place | null, end: Place) =>
    roomiest(walls, wider ?? end, SURELY_FREE * (wider ? tooWideMm : fitsMm))
  const [inside, outside] = [sideOf(innerMm, neckMm[0]), sideOf(outerMm, neckMm.at(-1)!)]
  const width = openingsOf(walls, outside).widestMm(Float64Array.from(inside))
  return width > 0 ? width : null
}

/** The place with the most room in a ball around one. */
function roomiest(walls: Walls, [x, y, z]: Place, radiusMm: number): Place {
  const { cellMm, riseMm, distanceMm } = walls
  let [most, best] = [-1, [x, y, z] as Place]
  for (let dz = -radiusMm; dz <= radiusMm; dz += riseMm)
    for (let dy = -radiusMm; dy <= radiusMm; dy += cellMm)
      for (let dx = -radiusMm; dx <= radiusMm; dx += cellMm) {
        const c = walls.cellAt(x + dx, y + dy, z + dz)
        if (c < 0 || distanceMm[c] <= most || Math.hypot(dx, dy, dz) > radiusMm) continue
        most = distanceMm[c]
        best = walls.placeOf(c)
      }
  return best
}
