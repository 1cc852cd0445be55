import type { Place } from './between'
import { middleOfNeck, type NarrowWay } from './narrowWays'
import type { Room, Told } from './room'

/** Where liquid gets in, how wide, and which way that looks: a unit vector. */
export type Opening = { readonly atMm: Place; readonly widthMm: number; readonly looks: Place }

/** So many openings are looked for, as wide as liquid needs at least. */
const MOST_OPENINGS = 4
const WET_MM = 1
/** Openings look the same way by so much of it, and walls between are looked for in such steps. */
const SAME_WAY = 0.8
const STEP_MM = 0.3

/**
 * All openings that lead to some places, the widest first: one after another is plugged, until nothing gets
 * in.
 * @param first the widest way there
 */
export function openingsInto(room: Room, places: Float64Array, first: Told): Opening[] {
  const found: Opening[] = []
  const before: NarrowWay[] = []
  for (let way: Told | null = first; way && before.length < MOST_OPENINGS;) {
    const { neckMm, innerMm, outerMm, fitsMm, widthMm } = way
    const [from, to] = [innerMm ?? neckMm[0], outerMm ?? neckMm.at(-1)!]
    const farMm = Math.hypot(...to.map((value, axis) => value - from[axis]))
    const looks = to.map((value, axis) => (value - from[axis]) / farMm) as [number, number, number]
    const opening = { atMm: middleOfNeck(way), widthMm: widthMm ?? fitsMm, looks }
    // One that begins and ends in one place looks nowhere.
    const isOne = farMm > 0 && opening.widthMm >= WET_MM
    if (isOne && !found.some((other) => isOneWith(opening, other))) found.push(opening)
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
