import { sharesNozzle, type Printer } from '../bench'
import { SAME_HEIGHT_MM } from '../tolerances'
import { clearancesOf } from './clearances'
import { motionOf } from './motion'
import { CLEAR_MM, isLifted, liftTimeS, retractTimeS } from './moveRules'
import { liftedWay, straightTime } from './moveTime'
import type { createPathMeasurer } from './pathMeasurer'
import { chuteBefore, levelOf, type Print, type Sweep } from './print'
import type { Role } from './roles'

/** Plastic laid down for one role in one filament. */
export type RoleUse = { readonly role: Role; readonly slot: number; readonly mm3: number }

/** What a print takes; per sweep, in the order of printing, and in sum. */
export type PrintMeasure = {
  readonly mm3: Float64Array
  /** With the way to the sweep, without swaps; a height that is slowed down shows it at its last sweep. */
  readonly sweepS: Float64Array
  /** Of that, the way to the sweep. */
  readonly waysS: Float64Array
  /** 1 where the filament is swapped before the sweep. */
  readonly swapBefore: Uint8Array
  /** Pushed out by the printer at the swap before the sweep. */
  readonly purgedMm3: Float64Array
  readonly swaps: number
  readonly uses: readonly RoleUse[]
  readonly swapTimeS: number
  readonly timeS: number
}

/**
 * Plastic and time of a print, by the same rules of moving that its file follows.
 * @param measure remembers paths between prints
 */
export function measurePrint(
  print: Print,
  printer: Printer,
  measure: ReturnType<typeof createPathMeasurer>,
): PrintMeasure {
  const { sweeps, lineWidthMm } = print
  const motions = [true, false].map((first) => motionOf(printer, first, print.speedMmS, print.bridging?.mmS))
  const mm3 = new Float64Array(sweeps.length)
  const sweepS = new Float64Array(sweeps.length)
  const waysS = new Float64Array(sweeps.length)
  const swapBefore = new Uint8Array(sweeps.length)
  const purgedMm3 = new Float64Array(sweeps.length)
  const uses = new Map<string, { role: Role; slot: number; mm3: number }>()
  const use = (role: Role, slot: number, amount: number) => {
    const key = `${role} ${slot}`
    const known = uses.get(key)
    if (known) known.mm3 += amount
    else uses.set(key, { role, slot, mm3: amount })
  }
  let before: Sweep | null = null
  let slot = -1
  let swaps = 0
  let swapTimeS = 0
  let heightS = 0
  const { toMm } = clearancesOf(print)
  let timeS = 0
  sweeps.forEach((sweep, i) => {
    const { paths, bottomMm, topMm } = sweep
    if (slot >= 0 && sweep.slot !== slot) {
      const purged = chuteBefore(print, i, slot)
      swaps++
      swapBefore[i] = 1
      purgedMm3[i] = purged
      swapTimeS += printer.swapS + purged / printer.purgeMm3S
      if (purged > 0) use('purge', sweep.slot, purged)
      before = null
    }
    slot = sweep.slot
    if (paths.kinds.length > 0) {
      const { laidMm, timeS: laidS } = measure(paths, bottomMm === 0 ? motions[0] : motions[1])
      mm3[i] = laidMm * lineWidthMm * (topMm - bottomMm)
      use(sweep.role, slot, mm3[i])
      waysS[i] = before
        ? arriveS(sweep, before, toMm[i], printer)
        : comeDownS(sweep, toMm[i], printer, swaps > 0)
      sweepS[i] = laidS + waysS[i]
      before = sweep
    }
    heightS += sweepS[i]
    const next = sweeps[i + 1]
    if (next && Math.abs(levelOf(next) - levelOf(sweep)) < SAME_HEIGHT_MM) return
    if (print.slowsDown && heightS < printer.minLayerS) sweepS[i] += printer.minLayerS - heightS
    heightS = 0
  })
  for (const seconds of sweepS) timeS += seconds
  return {
    mm3,
    sweepS,
    waysS,
    swapBefore,
    purgedMm3,
    swaps,
    uses: [...uses.values()],
    swapTimeS,
    timeS: timeS + swapTimeS,
  }
}

/** Time to get to a sweep's first point from another's last: lifted, but for a short way at one height. */
function arriveS({ paths, topMm }: Sweep, from: Sweep, highestMm: number, printer: Printer): number {
  const [x, y] = [paths.xyMm[0], paths.xyMm[1]]
  const away = Math.hypot(x - from.paths.xyMm.at(-2)!, y - from.paths.xyMm.at(-1)!)
  if (!isLifted(away) && from.topMm === topMm)
    return straightTime(away, 0, 0, printer.travelMmS, printer.accelMmS2)
  const clear = Math.max(highestMm, topMm) + CLEAR_MM
  const way = liftedWay(from.paths, from.paths.kinds.length - 1, [x, y], printer)
  return way.timeS + retractTimeS(printer) + liftTimeS(clear - from.topMm) + liftTimeS(clear - topMm)
}

/**
 * Time to get to the first point of all, or after a swap, which is left above everything: down, and pushed
 * forward where it was drawn back.
 */
function comeDownS({ topMm }: Sweep, highestMm: number, printer: Printer, afterSwap: boolean): number {
  const clear = Math.max(highestMm, topMm) + CLEAR_MM
  return liftTimeS(clear - topMm) + (afterSwap && !sharesNozzle(printer) ? retractTimeS(printer) : 0)
}
