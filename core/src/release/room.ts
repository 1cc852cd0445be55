import { widthOf } from './closely'
import { hollowsOf, type Hollows } from './hollows'
import { middleOfNeck, narrowWaysOf, type NarrowWay } from './narrowWays'
import { openingsOf, type Openings } from './openings'
import type { Filled } from './standCells'
import { FINE, OUTER, ROUGH, wallsOf, type Fineness, type Walls } from './walls'

/** What of a part the ways to its stands go by: the same for all plans of its layers. */
export type Room = {
  readonly rough: Ways
  /** Worked out when they are asked for; the other one shows the room outside as well. */
  readonly fine: Ways
  readonly outer: Ways
  readonly hollows: Hollows
  /** The widest way from some places to outside and its width, where that is narrow for the part’s size. */
  narrowWay(places: Float64Array, before?: readonly NarrowWay[]): Told | null
}
export type Told = NarrowWay & { readonly widthMm: number | null }
export type Ways = { readonly walls: Walls; readonly openings: Openings }

export function roomAround(layers: readonly Filled[]): Room {
  const waysAt = (fineness: Fineness): Ways => {
    const walls = wallsOf(layers, fineness)
    return { walls, openings: openingsOf(walls) }
  }
  let [fine, outer]: (Ways | null)[] = [null, null]
  let hollows: Hollows | null = null
  let narrow: ReturnType<typeof narrowWaysOf> | null = null
  const widths = new Map<string, number | null>()
  return {
    rough: waysAt(ROUGH),
    get fine() {
      return (fine ??= waysAt(FINE))
    },
    get outer() {
      return (outer ??= waysAt(OUTER))
    },
    get hollows() {
      return (hollows ??= hollowsOf(layers))
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
  }
}
