import { widthOf } from './closely'
import type { Place } from './freeRuns'
import { middleOfNeck, narrowWaysOf, type NarrowWay } from './narrowWays'
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
  narrowWay(places: Float64Array, before?: readonly NarrowWay[]): Told | null
  /** Which moves between cells of a grid were found shut, as far as was asked; the last grid's are kept. */
  shutIn(grid: string): Map<number, boolean>
}
type Told = NarrowWay & { readonly widthMm: number | null }
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
    narrowWay(places, before) {
      const way = (narrow ??= narrowWaysOf(layers))(places, before)
      if (!way) return null
      // Stands in one room have the same neck, or nearly so.
      const { innerMm, fitsMm, tooWideMm } = way
      const middle = middleOfNeck(way).map((value) => Math.round(value / tooWideMm))
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
/** So many openings are looked for, as wide as liquid needs at least. */
const MOST_OPENINGS = 4
const WET_MM = 1
/** Openings look the same way by so much of it, and walls between are looked for in such steps. */
const SAME_WAY = 0.8
const STEP_MM = 0.3
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
export type Opening = { readonly atMm: Place; readonly widthMm: number; readonly looks: Place }

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

/** One opening after another is plugged, until nothing gets in. */
function openingsInto(room: Room, places: Float64Array, first: Told): Opening[] {
  const found: Opening[] = []
  const before: NarrowWay[] = []
  for (let way: Told | null = first; way && before.length < MOST_OPENINGS;) {
    const { neckMm, innerMm, outerMm, fitsMm, widthMm } = way
    const [from, to] = [innerMm ?? neckMm[0], outerMm ?? neckMm.at(-1)!]
    const farMm = Math.hypot(...to.map((value, axis) => value - from[axis]))
    const looks = to.map((value, axis) => (value - from[axis]) / farMm) as [number, number, number]
    const opening = { atMm: middleOfNeck(way), widthMm: widthMm ?? fitsMm, looks }
    if (opening.widthMm >= WET_MM && !found.some((other) => isOneWith(opening, other))) found.push(opening)
    before.push(way)
    way = room.narrowWay(places, before)
  }
  return found.toSorted((a, b) => b.widthMm - a.widthMm)

  /** Whether two are ends of one slit: they look the same way, and nothing of the part lies between. */
  function isOneWith(one: Opening, other: Opening): boolean {
    const agree = one.looks.reduce((sum, value, axis) => sum + value * other.looks[axis], 0)
    if (agree < SAME_WAY) return false
    const farMm = Math.hypot(...one.atMm.map((value, axis) => value - other.atMm[axis]))
    const steps = Math.ceil(farMm / STEP_MM)
    for (let n = 1; n < steps; n++) {
      const [x, y, z] = one.atMm.map((value, axis) => value + (n / steps) * (other.atMm[axis] - value))
      if (room.fine.walls.contains(x, y, z)) return false
    }
    return true
  }
}
