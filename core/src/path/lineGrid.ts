import { cellPlaces } from './cellPlaces'
import { lastTimes } from './lastTimes'
import type { ToolPaths } from './toolPaths'

/** Sides of a cell, in line widths. */
const CELL = 2
/** A side lies in the cells of the middles of its stretches, no longer than so many line widths. */
const STRETCH = 1

/** Cells in the order in which they are looked through: most lines lie in the place’s own. */
const AROUND = Int8Array.of(0, 0, 1, 0, -1, 0, 0, 1, 0, -1, 1, 1, 1, -1, -1, 1, -1, -1)

/** Lines by place: asked whether one runs near a point. */
export type LineGrid = {
  /**
   * Whether a line's middle runs within half its width and some more of a place.
   * @param moreMm so much that this is no more than one and a half line widths
   */
  isNear(x: number, y: number, moreMm: number): boolean
}

const grids = lastTimes<LineGrid>()

/** The grid of lines of some passes; the same lines have the same one. */
export const gridOf = (passes: readonly ToolPaths[], lineWidthMm: number): LineGrid =>
  passes.length === 0
    ? { isNear: () => false }
    : grids(passes[0], [lineWidthMm, ...passes], () => gridded(passes, lineWidthMm))

/** Numbers of a side: where it begins, where it goes, how wide the line is to one side of its middle. */
const OF_SIDE = 5

function gridded(passes: readonly ToolPaths[], w: number): LineGrid {
  const cell = CELL * w
  const count = passes.reduce((sum, { xyMm, kinds }) => sum + xyMm.length / 2 - kinds.length, 0)
  const sides = new Float64Array(OF_SIDE * count)
  let [n, entries, widest] = [0, 0, 0]
  for (const { xyMm, starts, flow } of passes)
    for (let p = 0; p + 1 < starts.length; p++)
      for (let i = starts[p]; i + 1 < starts[p + 1]; i++, n += OF_SIDE) {
        sides[n] = xyMm[2 * i]
        sides[n + 1] = xyMm[2 * i + 1]
        sides[n + 2] = xyMm[2 * i + 2] - xyMm[2 * i]
        sides[n + 3] = xyMm[2 * i + 3] - xyMm[2 * i + 1]
        sides[n + 4] = (flow[p] * w) / 2
        widest = Math.max(widest, sides[n + 4])
        entries += stretchesOf(n)
      }
  const { lastIn, placeOf } = cellPlaces(entries)
  const before = new Int32Array(entries)
  const sideAt = new Int32Array(entries)
  let entry = 0
  for (n = 0; n < sides.length; n += OF_SIDE) {
    const stretches = stretchesOf(n)
    for (let k = 0; k < stretches; k++) {
      const t = (k + 0.5) / stretches
      const cx = Math.floor((sides[n] + t * sides[n + 2]) / cell)
      const cy = Math.floor((sides[n + 1] + t * sides[n + 3]) / cell)
      const place = placeOf(cx, cy)
      const last = lastIn[place]
      if (last >= 0 && sideAt[last] === n) continue
      sideAt[entry] = n
      before[entry] = last
      lastIn[place] = entry++
    }
  }
  return {
    isNear(x, y, moreMm) {
      const [cx, cy] = [Math.floor(x / cell), Math.floor(y / cell)]
      const [inX, inY] = [x - cx * cell, y - cy * cell]
      // What is near has the middle of a stretch no farther off than half of one more.
      const farMm = widest + moreMm + (STRETCH * w) / 2
      for (let c = 0; c < AROUND.length; c += 2) {
        const toX = AROUND[c] === 0 ? 0 : AROUND[c] < 0 ? inX : cell - inX
        const toY = AROUND[c + 1] === 0 ? 0 : AROUND[c + 1] < 0 ? inY : cell - inY
        if (toX * toX + toY * toY > farMm * farMm) continue
        for (let at = lastIn[placeOf(cx + AROUND[c], cy + AROUND[c + 1])]; at >= 0; at = before[at]) {
          const i = sideAt[at]
          const ux = sides[i + 2]
          const uy = sides[i + 3]
          const dx = x - sides[i]
          const dy = y - sides[i + 1]
          const l2 = ux * ux + uy * uy
          const along = dx * ux + dy * uy
          const t = along <= 0 || l2 === 0 ? 0 : along >= l2 ? 1 : along / l2
          const ex = dx - t * ux
          const ey = dy - t * uy
          const reach = sides[i + 4] + moreMm
          if (ex * ex + ey * ey <= reach * reach) return true
        }
      }
      return false
    },
  }

  /** Into how many stretches a side is divided. */
  function stretchesOf(side: number): number {
    const [ux, uy] = [sides[side + 2], sides[side + 3]]
    return Math.max(1, Math.ceil(Math.sqrt(ux * ux + uy * uy) / (STRETCH * w)))
  }
}
