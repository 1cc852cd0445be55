import { containment } from '../polygon'
import { gridOf, type LineGrid } from './lineGrid'
import type { Ground } from './supportLayers'
import type { ToolPaths } from './toolPaths'

/** An end of an interface line hangs no farther than this. */
export const HANGS_MM = 1.9
/** Lines are walked in steps of so many widths. */
export const STEP = 0.25
/** A line lies firmly on another when its middle is so much of a width inside that one's edge. */
export const INSIDE = 0.1
/** Or when what lies so many widths to both sides of its middle does. */
const BESIDE = 0.4

/** Whether something that carries lies within half a line, and some more, of a place. */
export type Over = (x: number, y: number, moreMm: number) => boolean

/** Whether one of some lines lies near a place; their grid is made when it is first asked. */
export function overLines(carriers: readonly ToolPaths[], w: number): Over {
  let grid: LineGrid | undefined
  return (x, y, moreMm) => (grid ??= gridOf(carriers, w)).isNear(x, y, moreMm)
}

/** Whether one of some lines, or the part, lies near a place. */
export function overAny(carriers: readonly ToolPaths[], rests: Ground['layers'], w: number): Over {
  const isOnLines = overLines(carriers, w)
  let areIn: ((x: number, y: number) => boolean)[] | undefined
  return (x, y, moreMm) => {
    if (isOnLines(x, y, moreMm)) return true
    areIn ??= rests.map(({ region }) => containment(region))
    for (const isIn of areIn) if (isIn(x, y)) return true
    return false
  }
}

/** Whether a line that runs in a direction lies firmly on something, or across a slot between two of them. */
export function liesFirmly(isOver: Over, x: number, y: number, aheadX: number, aheadY: number, w: number) {
  if (isOver(x, y, -INSIDE * w)) return true
  const [dx, dy] = [BESIDE * w * aheadY, BESIDE * w * aheadX]
  return isOver(x - dx, y + dy, 0) && isOver(x + dx, y - dy, 0)
}

/** Whether two points of a list are the same place. */
export const isSame = (xyMm: Float64Array, a: number, b: number): boolean =>
  Math.abs(xyMm[2 * a] - xyMm[2 * b]) + Math.abs(xyMm[2 * a + 1] - xyMm[2 * b + 1]) < 1e-6

/** Lines from which to before which each goes on where the one before it ended, as wide as it may be. */
export function chainsOf({ xyMm, starts, kinds }: ToolPaths): [from: number, end: number][] {
  const chains: [number, number][] = []
  for (let p = 0; p < kinds.length; p++)
    if (p > 0 && isSame(xyMm, starts[p], starts[p] - 1)) chains.at(-1)![1] = p + 1
    else chains.push([p, p + 1])
  return chains
}
