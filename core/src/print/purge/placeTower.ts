import { boundsAround, boundsOf, type Bounds2 } from '../../polygon'
import type { Sweep } from '../print'

/** Between a tower, with the lines around it, and whatever else is printed. */
export const TOWER_APART_MM = 4
/** A place is looked for on the whole bed at this spacing where none is free beside everything. */
const CELL_MM = 2

/** What all sweeps take on the bed; nothing at all has no end before its beginning. */
export function boxOfSweeps(sweeps: readonly Sweep[]): Bounds2 {
  const filled = sweeps.filter(({ paths }) => paths.kinds.length > 0)
  return boundsAround(filled.map(({ paths }) => boundsOf(paths.xyMm)))
}

/** Where the zero of the paths must lie so that all of them together are in the middle of the bed, in mm. */
export function inTheMiddle(sweeps: readonly Sweep[], bedMm: readonly [number, number]): [number, number] {
  const box = boxOfSweeps(sweeps)
  return box.maxX < box.minX
    ? [0, 0]
    : [(bedMm[0] - box.minX - box.maxX) / 2, (bedMm[1] - box.minY - box.maxY) / 2]
}

/**
 * Where the zero of the paths must lie so that all of them are on the bed: in the middle of it, or moved by
 * no more than it takes.
 */
export function ontoBed(
  sweeps: readonly Sweep[],
  bedMm: readonly [number, number],
  middle: boolean,
): readonly [number, number] {
  if (middle) return inTheMiddle(sweeps, bedMm)
  const box = boxOfSweeps(sweeps)
  const least = (from: number, to: number, room: number) => (from < 0 ? -from : Math.min(0, room - to))
  return [least(box.minX, box.maxX, bedMm[0]), least(box.minY, box.maxY, bedMm[1])]
}

/**
 * Middle of a free square of the bed: beside everything, where that keeps it most compact; in a notch of it
 * where it would not fit beside; null where there is no room. All of it together still goes on the bed when
 * laid in its middle.
 * @param sideMm of the square with the lines around it
 */
export function freePlace(
  sweeps: readonly Sweep[],
  sideMm: number,
  bedMm: readonly [number, number],
): [number, number] | null {
  const box = boxOfSweeps(sweeps)
  if (box.maxX < box.minX) return [0, 0]
  const [width, depth] = [box.maxX - box.minX, box.maxY - box.minY]
  const [midX, midY] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2]
  const off = TOWER_APART_MM + sideMm / 2
  const beside = [
    { at: [box.maxX + off, midY], size: [width + TOWER_APART_MM + sideMm, Math.max(depth, sideMm)] },
    { at: [midX, box.maxY + off], size: [Math.max(width, sideMm), depth + TOWER_APART_MM + sideMm] },
  ]
    .filter(({ size }) => size[0] <= bedMm[0] && size[1] <= bedMm[1])
    .toSorted((a, b) => Math.max(...a.size) - Math.max(...b.size))
  if (beside.length > 0) return [beside[0].at[0], beside[0].at[1]]
  return inANotch(sweeps, box, sideMm)
}

/** Whether a square stands clear of every line. */
export function isClear(
  sweeps: readonly Sweep[],
  [x, y]: readonly [number, number],
  sideMm: number,
): boolean {
  const half = sideMm / 2 + TOWER_APART_MM
  const square = { minX: x - half, minY: y - half, maxX: x + half, maxY: y + half }
  return sweeps.every(({ paths: { xyMm, starts, kinds } }) => {
    if (kinds.length === 0 || apart(boundsOf(xyMm), square)) return true
    for (let p = 0; p < kinds.length; p++)
      for (let i = starts[p]; i < starts[p + 1] - 1; i++)
        if (crosses(xyMm[2 * i], xyMm[2 * i + 1], xyMm[2 * i + 2], xyMm[2 * i + 3], square)) return false
    return true
  })
}

const apart = (a: Bounds2, b: Bounds2) =>
  a.maxX < b.minX || b.maxX < a.minX || a.maxY < b.minY || b.maxY < a.minY

/**
 * Whether a straight passes through a box. Source: the straight is cut by the box's sides, one after the
 * other; something must be left.
 */
function crosses(ax: number, ay: number, bx: number, by: number, box: Bounds2): boolean {
  let [from, to] = [0, 1]
  const cut = (start: number, step: number, low: number, high: number) => {
    if (step === 0) return start >= low && start <= high
    const [a, b] = [(low - start) / step, (high - start) / step]
    from = Math.max(from, Math.min(a, b))
    to = Math.min(to, Math.max(a, b))
    return from <= to
  }
  return cut(ax, bx - ax, box.minX, box.maxX) && cut(ay, by - ay, box.minY, box.maxY)
}

/**
 * A free square within the box of everything, nearest to its edge: an L or a ring has room that its box
 * hides.
 */
function inANotch(sweeps: readonly Sweep[], box: Bounds2, sideMm: number): [number, number] | null {
  const columns = Math.ceil((box.maxX - box.minX) / CELL_MM) + 1
  const rows = Math.ceil((box.maxY - box.minY) / CELL_MM) + 1
  const taken = new Uint8Array(columns * rows)
  for (const { paths } of sweeps)
    for (let p = 0; p < paths.kinds.length; p++)
      for (let i = paths.starts[p]; i < paths.starts[p + 1] - 1; i++) {
        const [ax, ay, bx, by] = paths.xyMm.subarray(2 * i, 2 * i + 4)
        const steps = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / (CELL_MM / 2)))
        for (let s = 0; s <= steps; s++) {
          const column = Math.floor((ax + ((bx - ax) * s) / steps - box.minX) / CELL_MM)
          const row = Math.floor((ay + ((by - ay) * s) / steps - box.minY) / CELL_MM)
          taken[row * columns + column] = 1
        }
      }
  // Taken cells left of and below each, so that a square is looked through at once.
  const sums = new Int32Array((columns + 1) * (rows + 1))
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++)
      sums[(r + 1) * (columns + 1) + c + 1] =
        taken[r * columns + c] +
        sums[r * (columns + 1) + c + 1] +
        sums[(r + 1) * (columns + 1) + c] -
        sums[r * (columns + 1) + c]
  const reach = Math.ceil((sideMm / 2 + TOWER_APART_MM) / CELL_MM)
  const inside = Math.ceil(sideMm / 2 / CELL_MM)
  let best: [number, number] | null = null
  let nearest = Infinity
  for (let r = inside; r < rows - inside; r++)
    for (let c = inside; c < columns - inside; c++) {
      const [l, u] = [Math.max(0, c - reach), Math.max(0, r - reach)]
      const [right, top] = [Math.min(columns, c + reach + 1), Math.min(rows, r + reach + 1)]
      const within =
        sums[top * (columns + 1) + right] -
        sums[u * (columns + 1) + right] -
        sums[top * (columns + 1) + l] +
        sums[u * (columns + 1) + l]
      const edge = Math.min(c, r, columns - 1 - c, rows - 1 - r)
      if (within > 0 || edge >= nearest) continue
      nearest = edge
      best = [box.minX + (c + 0.5) * CELL_MM, box.minY + (r + 0.5) * CELL_MM]
    }
  return best
}
