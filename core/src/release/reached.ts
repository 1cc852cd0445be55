import { straightened, type Way } from './openings'
import { openingsInto, type Opening } from './openingsInto'
import type { Room, Ways } from './room'
import { ANY_TOOL_MM } from './walls'

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

/** What gets to some places, and how. */
export type Reached = {
  readonly widthMm: number
  wayMm(): Way
  /**
   * All openings that lead there, the widest first, and which way they look; null where these are too wide to
   * be told so. Worked out when they are asked for.
   */
  openings(): readonly Opening[] | null
}

/** Of what nothing gets to. */
export const UNREACHED: Reached = { widthMm: 0, wayMm: () => [], openings: () => [] }

/**
 * The same as exactly as it is known, and the widest way: of places where it is narrow for the size of the
 * part, looked at closely.
 */
export function closelyReached(room: Room, middles: Float64Array): Reached {
  const { walls, openings } = room.fine
  const seenMm = reachedMm(room, room.fine, middles, ANY_TOOL_MM)
  const seen = { widthMm: seenMm, wayMm: () => openings.wayMm(middles), openings: () => null }
  if (walls.cellMm <= SMALL_MM || seenMm >= TOLD_CELLS * walls.cellMm) return seen
  const places = openings.roomyOf(middles)
  const narrow = room.narrowWay(places)
  if (!narrow) return { widthMm: Math.min(seenMm, CRACK_MM), wayMm: () => [], openings: () => [] }
  const { widthMm } = narrow
  if (widthMm === null) return seen
  return {
    widthMm,
    wayMm: () => straightened(narrow.wayMm, narrow.fitsMm / 2),
    openings: () => openingsInto(room, places, narrow),
  }
}
