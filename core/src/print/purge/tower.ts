import { PathWriter, type ToolPaths } from '../../path'

/** A prime tower: a square pillar beside what is printed, in which swaps push out what they purge. */
export type Tower = {
  /** Its middle, in the coordinates of the paths. */
  readonly atMm: readonly [number, number]
  readonly sideMm: number
  readonly topMm: number
}

/** Lines around the tower on the bed. */
export const TOWER_RINGS = 4
/** Lines of a height in which little is purged are this far apart, and lie across those below. */
const SPARSE_MM = 2.5
/** Narrower, a tower would not stand by itself: at least this wide, and a seventh of its height. */
const NARROWEST_MM = 10
const SLENDER = 7
const SIDE_STEP_MM = 0.5

/**
 * One height of a tower, laid piece by piece: a wall, then lines from side to side. What is laid of it is
 * known by its length.
 */
export type TowerHeight = {
  readonly lengthMm: number
  /** Lines that go on where the last ones ended. */
  take(lengthMm: number): ToolPaths
  /** The rest: what the wall still lacks, and lines that carry what comes above; all of them on the bed. */
  finish(solid: boolean): ToolPaths
}

/** Side of a tower that takes a length of lines at its fullest height, in mm. */
export function towerSide(longestMm: number, topMm: number, lineWidthMm: number): number {
  let side = Math.max(NARROWEST_MM, topMm / SLENDER)
  side = Math.ceil(side / SIDE_STEP_MM) * SIDE_STEP_MM
  while (trackOf([0, 0], side, lineWidthMm, false).lengthMm < longestMm) side += SIDE_STEP_MM
  return side
}

/** @param across whether lines run along y instead of x */
export function towerHeight(
  atMm: readonly [number, number],
  sideMm: number,
  lineWidthMm: number,
  across: boolean,
): TowerHeight {
  const { xyMm, breakAt, lengthMm } = trackOf(atMm, sideMm, lineWidthMm, across)
  let [next, done] = [1, 0]
  let [x, y] = [xyMm[0], xyMm[1]]

  /** Walks on along the track and gives the points passed; stops after a length, or before a point. */
  function walk(writer: PathWriter, length: number, before: number): void {
    let points = [x, y]
    const lay = () => {
      if (points.length >= 4) writer.add('stand', Float64Array.from(points), 0, points.length / 2, false)
    }
    let left = length
    while (next < before && left > 1e-9) {
      const [tx, ty] = [xyMm[2 * next], xyMm[2 * next + 1]]
      if (next === breakAt) {
        // From the wall to the first line nothing is laid.
        lay()
        ;[x, y] = [tx, ty]
        points = [x, y]
        next++
        continue
      }
      const away = Math.hypot(tx - x, ty - y)
      const share = Math.min(1, left / away)
      x += share * (tx - x)
      y += share * (ty - y)
      points.push(x, y)
      left -= share * away
      done += share * away
      if (share === 1) next++
    }
    lay()
  }

  return {
    lengthMm,
    take(length) {
      const writer = new PathWriter()
      walk(writer, Math.min(length, lengthMm - done), xyMm.length / 2)
      return writer.finish()
    },
    finish(solid) {
      const writer = new PathWriter()
      walk(writer, Infinity, solid ? xyMm.length / 2 : breakAt)
      if (solid) return writer.finish()
      const each = Math.max(1, Math.round(SPARSE_MM / lineWidthMm))
      for (
        let r = next <= breakAt ? 0 : ((next - breakAt) >> 1) + 1;
        breakAt + 2 * r + 1 < xyMm.length / 2;
        r++
      ) {
        if (r % each !== 0) continue
        writer.add('stand', xyMm, breakAt + 2 * r, 2, false)
      }
      next = xyMm.length / 2
      return writer.finish()
    },
  }
}

/** Lines around a tower on the bed, from the outside in. */
export function towerRings(atMm: readonly [number, number], sideMm: number, lineWidthMm: number): ToolPaths {
  const writer = new PathWriter()
  for (let ring = TOWER_RINGS; ring > 0; ring--)
    writer.add('brim', square(atMm, sideMm / 2 + (ring - 0.5) * lineWidthMm), 0, 4, true)
  return writer.finish()
}

const square = ([x, y]: readonly [number, number], half: number) =>
  Float64Array.of(x - half, y - half, x + half, y - half, x + half, y + half, x - half, y + half)

/**
 * The way of the nozzle over one height: the wall and back to its start, then from `breakAt` on lines from
 * side to side, joined at ends.
 */
function trackOf(at: readonly [number, number], sideMm: number, w: number, across: boolean) {
  const wall = square(at, sideMm / 2 - w / 2)
  const reach = sideMm / 2 - 1.5 * w
  const rows = Math.floor((2 * reach) / w) + 1
  const spacing = (2 * reach) / (rows - 1)
  const xyMm = new Float64Array(2 * (5 + 2 * rows))
  xyMm.set(wall)
  xyMm.set(wall.subarray(0, 2), 8)
  for (let r = 0; r < rows; r++)
    for (const end of [0, 1]) {
      const along = (r + end) % 2 === 0 ? -reach : reach
      const aside = -reach + r * spacing
      const p = 2 * (5 + 2 * r + end)
      xyMm[p] = at[0] + (across ? aside : along)
      xyMm[p + 1] = at[1] + (across ? along : aside)
    }
  return {
    xyMm,
    breakAt: 5,
    lengthMm: 4 * (sideMm - w) + rows * 2 * reach + (rows - 1) * spacing,
  }
}
