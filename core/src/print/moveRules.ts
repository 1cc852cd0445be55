import type { Printer } from '../bench'

/** Rules of moving that the clock and the file share: what is counted is what is done. */

/** Travels from here on are made with the filament drawn back and the nozzle lifted clear of everything printed so far. */
export const LIFT_FROM_MM = 1.2
/** Room between a lifted nozzle and the highest thing printed. */
export const CLEAR_MM = 0.4
export const LIFT_MM_S = 10
export const RETRACT_MM = 0.8

const SLOWEST_RETRACT_MM_S = 5
const QUICKEST_RETRACT_MM_S = 120

/** Speed at which drawing back and pushing forward again takes the time that the printer is known to lose by it, in mm/s. */
export const retractMmS = ({ retractS }: Pick<Printer, 'retractS'>): number =>
  Math.min(QUICKEST_RETRACT_MM_S, Math.max(SLOWEST_RETRACT_MM_S, (2 * RETRACT_MM) / Math.max(1e-3, retractS)))

/** Time of drawing back and pushing forward again, in s. */
export const retractTimeS = (printer: Pick<Printer, 'retractS'>): number =>
  (2 * RETRACT_MM) / retractMmS(printer)

/** Time to lift or lower the nozzle, in s. */
export const liftTimeS = (byMm: number): number => Math.abs(byMm) / LIFT_MM_S

/** Whether a way from the last point to the next is made lifted. */
export const isLifted = (awayMm: number): boolean => awayMm > LIFT_FROM_MM
