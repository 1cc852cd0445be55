import type { Walls } from './walls'

/** Steps past walls, as a share of a cell's height: no slice is passed over. */
const STEP = 0.99
/** Half the way across a cell from corner to corner, as a share of its side. */
const HALF_ACROSS = 0.75

/**
 * How far a place gets along a straight line before it meets the part, in mm; Infinity when it gets out, or
 * as far as it has to.
 * @param direction unit vector
 */
export function freeWayMm(
  walls: Walls,
  x: number,
  y: number,
  z: number,
  [dx, dy, dz]: readonly [number, number, number],
  mostMm = Infinity,
): number {
  const { cellMm, riseMm, distanceMm } = walls
  const step = STEP * riseMm
  let c = walls.cellAt(x, y, z)
  for (let t = 0; c >= 0 && t < mostMm;) {
    // Nothing is nearer than that, wherever in its cell the place is.
    const free = distanceMm[c] - HALF_ACROSS * cellMm
    const isNear = free < step
    t = Math.min(mostMm, t + (isNear ? step : free))
    const [px, py, pz] = [x + dx * t, y + dy * t, z + dz * t]
    const next = walls.cellAt(px, py, pz)
    if (next < 0) return Infinity
    // Where only the middle of a cell lies in the part, the place itself may lie beside it.
    if (distanceMm[next] === 0 && (isDeep(walls, next) || walls.isThin(next) || walls.contains(px, py, pz)))
      return t
    if (isNear && next !== c && isWalled(walls, c, next)) return t
    c = next
  }
  return Infinity
}

/** Whether a cell in the part has only such cells beside it. */
const isDeep = ({ distanceMm, nx, ny }: Walls, c: number): boolean =>
  distanceMm[c - 1] === 0 &&
  distanceMm[c + 1] === 0 &&
  distanceMm[c - nx] === 0 &&
  distanceMm[c + nx] === 0 &&
  distanceMm[c - nx * ny] === 0 &&
  distanceMm[c + nx * ny] === 0

/** Whether a thin wall lies between two cells that touch each other: across both ways around a corner. */
function isWalled({ nx, ny, isShutX, isShutY }: Walls, from: number, to: number): boolean {
  const x = (to % nx) - (from % nx)
  const y = (Math.floor(to / nx) % ny) - (Math.floor(from / nx) % ny)
  const aside = from + x
  const along = from + y * nx
  const first =
    (x !== 0 && isShutX(Math.min(from, aside))) || (y !== 0 && isShutY(Math.min(aside, aside + y * nx)))
  const other =
    (y !== 0 && isShutY(Math.min(from, along))) || (x !== 0 && isShutX(Math.min(along, along + x)))
  return first && other
}
