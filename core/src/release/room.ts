import { openingsOf, type Openings } from './openings'
import type { Filled } from './standCells'
import { ANY_TOOL_MM, FINE, OUTER, ROUGH, wallsOf, type Fineness, type Walls } from './walls'

/** What of a part the ways to its stands go by: the same for all plans of its layers. */
export type Room = {
  readonly rough: Ways
  /** Worked out when they are asked for; the other one shows the room outside as well. */
  readonly fine: Ways
  readonly outer: Ways
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
  let shut = { grid: '', moves: new Map<number, boolean>() }
  return {
    rough: waysAt(ROUGH),
    get fine() {
      return (fine ??= waysAt(FINE))
    },
    get outer() {
      return (outer ??= waysAt(OUTER))
    },
    shutIn(grid) {
      if (shut.grid !== grid) shut = { grid, moves: new Map() }
      return shut.moves
    },
  }
}

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
