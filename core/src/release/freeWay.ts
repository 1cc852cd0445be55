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
    if (distanceMm[next] === 0 && (isDeep(walls, next) || walls.isThin(next))) return t
    // Where only the middle of a cell lies in the part a place may lie beside it, and the other way round.
    if (isNear && touchesPart(walls, next) && walls.contains(px, py, pz)) return t
    if (isNear && next !== c && isWalled(walls, c, next)) return t
    c = next
  }
  return Infinity
}

/**
 * Whether a wall of the part lies between two places, however thin it is.
 * @param nearMm with more room than this around the first place none does
 */
export function isWalledOff(
  walls: Walls,
  [x, y, z]: readonly [number, number, number],
  to: readonly [number, number, number],
  nearMm: number,
): boolean {
  if (walls.roomMm(x, y, z) > nearMm) return false
  const [dx, dy, dz] = [to[0] - x, to[1] - y, to[2] - z]
  const far = Math.hypot(dx, dy, dz)
  return freeWayMm(walls, x, y, z, [dx / far, dy / far, dz / far], far) < far
}

/** Whether the middle of a cell, or of the one above or below it, lies in the part. */
const touchesPart = ({ distanceMm, nx, ny }: Walls, c: number): boolean =>
  distanceMm[c] === 0 || distanceMm[c - nx * ny] === 0 || distanceMm[c + nx * ny] === 0

/** Whether a cell in the part has only such cells beside it. */
const isDeep = ({ distanceMm, nx, ny }: Walls, c: number): boolean =>
  distanceMm[c - 1] === 0 &&
  distanceMm[c + 1] === 0 &&
  distanceMm[c - nx] === 0 &&
  distanceMm[c + nx] === 0 &&
  distanceMm[c - nx * ny] === 0 &&
  distanceMm[c + nx * ny] === 0

/** Whether a wall lies between two cells that touch each other: across both ways around a corner. */
function isWalled({ nx, ny, distanceMm, isShutX, isShutY }: Walls, from: number, to: number): boolean {
  const x = (to % nx) - (from % nx)
  const y = (Math.floor(to / nx) % ny) - (Math.floor(from / nx) % ny)
  if (x === 0 && y === 0) return false
  if (y === 0) return isShutX(Math.min(from, from + x))
  if (x === 0) return isShutY(Math.min(from, from + y * nx))
  const aside = from + x
  const along = from + y * nx
  const over = aside + y * nx
  return (
    (distanceMm[aside] === 0 || isShutX(Math.min(from, aside)) || isShutY(Math.min(aside, over))) &&
    (distanceMm[along] === 0 || isShutY(Math.min(from, along)) || isShutX(Math.min(along, over)))
  )
}
