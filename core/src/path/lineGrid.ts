import { cellPlaces } from './cellPlaces'
import type { ToolPaths } from './toolPaths'

/** Sides of a cell, in line widths: a line within one width of a place has a point in a cell around it. */
const CELL = 2

/** Cells in the order in which they are looked through: most lines lie in the place’s own. */
const AROUND = Int8Array.of(0, 0, 1, 0, -1, 0, 0, 1, 0, -1, 1, 1, 1, -1, -1, 1, -1, -1)

/** Lines by place: asked whether one runs near a point. */
export type LineGrid = {
  /**
   * Whether a line's middle runs within half its width and some more of a place.
   * @param moreMm at most one line width
   */
  isNear(x: number, y: number, moreMm: number): boolean
}

const grids = new WeakMap<ToolPaths, LineGrid>()

/** The grid of some lines; the same lines have the same one. */
export function gridOf(lines: ToolPaths, lineWidthMm: number): LineGrid {
  let grid = grids.get(lines)
  if (!grid) grids.set(lines, (grid = gridded(lines, lineWidthMm)))
  return grid
}

function gridded({ xyMm, starts, flow }: ToolPaths, w: number): LineGrid {
  const cell = CELL * w
  const stepsOf = (i: number) => {
    const [ux, uy] = [xyMm[2 * i + 2] - xyMm[2 * i], xyMm[2 * i + 3] - xyMm[2 * i + 1]]
    return Math.max(1, Math.ceil(Math.sqrt(ux * ux + uy * uy) / cell))
  }
  let entries = 0
  for (let p = 0; p + 1 < starts.length; p++)
    for (let i = starts[p]; i + 1 < starts[p + 1]; i++) entries += stepsOf(i)
  const { lastIn, placeOf } = cellPlaces(entries)
  const before = new Int32Array(entries)
  const sideAt = new Int32Array(entries)
  const pathAt = new Int32Array(entries)
  let n = 0
  for (let p = 0; p + 1 < starts.length; p++)
    for (let i = starts[p]; i + 1 < starts[p + 1]; i++) {
      const steps = stepsOf(i)
      const [ax, ay] = [xyMm[2 * i], xyMm[2 * i + 1]]
      const [ux, uy] = [xyMm[2 * i + 2] - ax, xyMm[2 * i + 3] - ay]
      for (let k = 0; k < steps; k++, n++) {
        const t = (k + 0.5) / steps
        const place = placeOf(Math.floor((ax + t * ux) / cell), Math.floor((ay + t * uy) / cell))
        sideAt[n] = i
        pathAt[n] = p
        before[n] = lastIn[place]
        lastIn[place] = n
      }
    }
  return {
    isNear(x, y, moreMm) {
      const [cx, cy] = [Math.floor(x / cell), Math.floor(y / cell)]
      for (let n = 0; n < AROUND.length; n += 2)
        for (let at = lastIn[placeOf(cx + AROUND[n], cy + AROUND[n + 1])]; at >= 0; at = before[at]) {
          const i = 2 * sideAt[at]
          const ax = xyMm[i]
          const ay = xyMm[i + 1]
          const ux = xyMm[i + 2] - ax
          const uy = xyMm[i + 3] - ay
          const l2 = ux * ux + uy * uy
          const along = (x - ax) * ux + (y - ay) * uy
          const t = along <= 0 || l2 === 0 ? 0 : along >= l2 ? 1 : along / l2
          const ex = x - ax - t * ux
          const ey = y - ay - t * uy
          const reach = (flow[pathAt[at]] * w) / 2 + moreMm
          if (ex * ex + ey * ey <= reach * reach) return true
        }
      return false
    },
  }
}
