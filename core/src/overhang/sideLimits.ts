import { reachOf, type Reach } from '../polygon'
import { radians } from '../units'

/**
 * Limits of the eight sides, clockwise from north (+y), in degrees from vertical; null when all sides cope
 * alike.
 */
export type SideAngles = readonly number[] | null

const DIRECTIONS = 48

/**
 * The limit of the side that faces this way (radians from +x, counter-clockwise): between two measured sides,
 * a share of both.
 */
export function limitTowards(freeAngleDeg: number, sides: SideAngles, azimuth: number): number {
  if (!sides) return freeAngleDeg
  const bearing = (((Math.PI / 2 - azimuth) / (2 * Math.PI)) * sides.length + 2 * sides.length) % sides.length
  const k = Math.floor(bearing)
  const t = bearing - k
  return (1 - t) * sides[k % sides.length] + t * sides[(k + 1) % sides.length]
}

/** How far a layer may step out beyond the one dzMm below, towards every side. */
export function sideReach(freeAngleDeg: number, sides: SideAngles, dzMm: number, slackMm: number): Reach {
  return reachOf(
    Float64Array.from(
      { length: DIRECTIONS },
      (_, k) =>
        dzMm * Math.tan(radians(limitTowards(freeAngleDeg, sides, (2 * Math.PI * k) / DIRECTIONS))) + slackMm,
    ),
  )
}
