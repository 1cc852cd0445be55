import type { Printer } from '../bench'
import type { ToolPaths } from '../path'

/** Rules of moving that the clock and the file share: what is counted is what is done. */

/**
 * Travels from here on are made with the filament drawn back and the nozzle lifted clear of everything
 * printed so far.
 */
export const LIFT_FROM_MM = 1.2
/** Room between a lifted nozzle and the highest thing printed. */
export const CLEAR_MM = 0.4
export const LIFT_MM_S = 10
export const RETRACT_MM = 0.8

const SLOWEST_RETRACT_MM_S = 5
const QUICKEST_RETRACT_MM_S = 120

/**
 * Speed at which drawing back and pushing forward again takes the time that the printer is known to lose by
 * it, in mm/s.
 */
export const retractMmS = ({ retractS }: Pick<Printer, 'retractS'>): number =>
  Math.min(QUICKEST_RETRACT_MM_S, Math.max(SLOWEST_RETRACT_MM_S, (2 * RETRACT_MM) / Math.max(1e-3, retractS)))

/** Time of drawing back and pushing forward again, in s. */
export const retractTimeS = (printer: Pick<Printer, 'retractS'>): number =>
  (2 * RETRACT_MM) / retractMmS(printer)

/** Time to lift or lower the nozzle, in s. */
export const liftTimeS = (byMm: number): number => Math.abs(byMm) / LIFT_MM_S

/** Whether a way from the last point to the next is made lifted. */
export const isLifted = (awayMm: number): boolean => awayMm > LIFT_FROM_MM

/** The way of a wipe: its points, and the length of each straight to them. */
export type Wipe = { readonly xyMm: readonly number[]; readonly straightsMm: readonly number[] }

const NO_WIPE: Wipe = { xyMm: [], straightsMm: [] }

/**
 * The way by which a nozzle rubs itself off on the line it laid last: on from its start where that is closed,
 * else back the way it came.
 * @param p number of the path that was laid last
 */
export function wipeAfter({ xyMm, starts }: ToolPaths, p: number, wipeMm: number): Wipe {
  const [first, last] = [starts[p], starts[p + 1] - 1]
  if (wipeMm <= 0 || last <= first) return NO_WIPE
  const way: number[] = []
  const straightsMm: number[] = []
  const isClosed = xyMm[2 * first] === xyMm[2 * last] && xyMm[2 * first + 1] === xyMm[2 * last + 1]
  const step = isClosed ? 1 : -1
  let [x, y] = [xyMm[2 * last], xyMm[2 * last + 1]]
  let leftMm = wipeMm
  for (let at = isClosed ? first + 1 : last - 1; at >= first && at <= last && leftMm > 0; at += step) {
    const [dx, dy] = [xyMm[2 * at] - x, xyMm[2 * at + 1] - y]
    const straight = Math.hypot(dx, dy)
    if (straight === 0) continue
    const share = Math.min(1, leftMm / straight)
    ;[x, y] = [x + dx * share, y + dy * share]
    way.push(x, y)
    straightsMm.push(straight * share)
    leftMm -= straight * share
  }
  return { xyMm: way, straightsMm }
}
