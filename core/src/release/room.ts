import { widthOf } from './closely'
import { narrowWaysOf, type NarrowWay } from './narrowWays'
import { openingsOf, straightened, type Openings, type Way } from './openings'
import type { Filled } from './standCells'
import { ANY_TOOL_MM, FINE, OUTER, ROUGH, wallsOf, type Fineness, type Walls } from './walls'

/** What of a part the ways to its stands go by: the same for all plans of its layers. */
export type Room = {
  readonly rough: Ways
  /** Worked out when they are asked for; the other one shows the room outside as well. */
  readonly fine: Ways
  readonly outer: Ways
  /** The widest way from some places to outside and its width, where that is narrow for the part’s size. */
  narrowWay(places: Float64Array): (NarrowWay & { readonly widthMm: number | null }) | null
  /** Which moves between cells of a grid were found shut, as far as was asked; the last grid's are kept. */
  shutIn(grid: string): Map<number, boolean>
}
export type Ways = { readonly walls: Walls; readonly openings: Openings }

export function roomAround(layers: readonly Filled[]): Room {
  const waysAt = (fineness: Fineness): Ways => {
    const walls = wallsOf(layers, fineness)
    return { walls, openings: openingsOf(walls) }
  }
  let [fine, outer]: (Ways | null)[] = [null, null]
  let narrow: ReturnType<typeof narrowWaysOf> | null = null
  const widths = new Map<string, number | null>()
  let shut = { grid: '', moves: new Map<number, boolean>() }
  return {
    rough: waysAt(ROUGH),
    get fine() {
      return (fine ??= waysAt(FINE))
    },
    get outer() {
      return (outer ??= waysAt(OUTER))
    },
    narrowWay(places) {
      const way = (narrow ??= narrowWaysOf(layers))(places)
      if (!way) return null
      // Stands in one room have the same neck, or nearly so.
      const { neckMm, innerMm, fitsMm, tooWideMm } = way
      const middle = neckMm[neckMm.length >> 1].map((value) => Math.round(value / tooWideMm))
      const key = [fitsMm, innerMm !== null, ...middle].join(' ')
      if (!widths.has(key)) widths.set(key, widthOf(way, layers))
      return { ...way, widthMm: widths.get(key)! }
    },
    shutIn(grid) {
      if (shut.grid !== grid) shut = { grid, moves: new Map() }
      return shut.moves
    },
  }
}

/** The fine grid tells ways well that are so many of its cells wide, and all if its cells are so small. */
const TOLD_CELLS = 6
const SMALL_MM = 0.7
/** Less than what is looked for closely. */
const CRACK_MM = 0.5
/** By more of its cells than this the rough grid tells a way from a wider one. */
const SURELY_CELLS = 2

/**
 * The widest tool that gets to some places, or over most of them from beside where that is surely wider: the
 * room outside is seen roughly.
 * @param middles x, y, z by turns
 * @param enoughMm the room outside is not looked at where so much gets in between
 */
export function reachedMm(room: Room, { openings }: Ways, middles: Float64Array, enoughMm: number): number {
  const insideMm = openings.widestMm(middles)
  if (insideMm >= enoughMm) return insideMm
  const besideMm = room.outer.openings.touchedMm(middles, ANY_TOOL_MM)
  return besideMm > insideMm + SURELY_CELLS * room.outer.walls.cellMm ? besideMm : insideMm
}

/**
 * The same as exactly as it is known, and the widest way: of places where it is narrow for the size of the
 * part, looked at closely.
 */
export function closelyReached(room: Room, middles: Float64Array): { widthMm: number; wayMm(): Way } {
  const { walls, openings } = room.fine
  const seenMm = reachedMm(room, room.fine, middles, ANY_TOOL_MM)
  const seen = { widthMm: seenMm, wayMm: () => openings.wayMm(middles) }
  if (walls.cellMm <= SMALL_MM || seenMm >= TOLD_CELLS * walls.cellMm) return seen
  const narrow = room.narrowWay(openings.roomyOf(middles))
  if (!narrow) return { widthMm: Math.min(seenMm, CRACK_MM), wayMm: () => [] }
  const { widthMm } = narrow
  return widthMm === null ? seen : { widthMm, wayMm: () => straightened(narrow.wayMm, narrow.fitsMm / 2) }
}
