import { evenSteps, interval, normalise, type Posterior } from './posterior'
import { AXES, type Axis, type Interval, type OffsetReading } from './readings'

export type AxisFit = {
  readonly axis: Axis
  /** Where the second nozzle prints, seen from where it was told to, mm: what the offset stored in the printer is wrong by. */
  readonly errorMm: Interval
  /** Teeth named as lining up best. */
  readonly readings: number
  /** The best tooth was the last of its comb: the truth may lie beyond. */
  readonly atTheEnd: boolean
  readonly posterior: Posterior
}
export type OffsetFit = { readonly axes: readonly AxisFit[]; readonly readings: number }

const ERRORS_MM = evenSteps(-0.8, 0.8, 641)
const ERROR_SPREAD_MM = 0.2
/** How far off a tooth may be and still be taken for the best; its prior as a logarithm. */
const LOG_WAVER = evenSteps(Math.log(0.03) - 1.25, Math.log(0.03) + 1.25, 9)
const LOG_WAVER_MIDDLE = Math.log(0.03)
const LOG_WAVER_SPREAD = 0.5

/**
 * Fits the error of the second nozzle's offset, each axis for itself.
 *
 * A comb is read like a vernier: the tooth whose shift cancels the error lines up. The maker picks tooth i of a comb with probability
 * exp(-(s_i + e)^2 / 2 w^2) over the sum of the same for all its teeth; the posterior is summed on a grid over error e and waver w.
 * Several teeth named on one comb, and combs printed again, each add a pick.
 */
export function fitOffset(readings: readonly OffsetReading[]): OffsetFit {
  const axes = AXES.flatMap((axis) => {
    const own = readings.filter((reading) => reading.axis === axis)
    return own.some((reading) => reading.grade === 1) ? [fitAxis(axis, own)] : []
  })
  return { axes, readings: axes.reduce((sum, one) => sum + one.readings, 0) }
}

function fitAxis(axis: Axis, readings: readonly OffsetReading[]): AxisFit {
  const combs = [...new Set(readings.map((reading) => reading.comb))].map((comb) => {
    const teeth = readings.filter((reading) => reading.comb === comb)
    return {
      shifts: teeth.map((tooth) => tooth.shiftMm),
      best: teeth.filter((tooth) => tooth.grade === 1).map((tooth) => tooth.shiftMm),
    }
  })
  const size = ERRORS_MM.length
  const log = new Float64Array(LOG_WAVER.length * size)
  for (let k = 0; k < LOG_WAVER.length; k++) {
    const waver = Math.exp(LOG_WAVER[k])
    const base = -0.5 * ((LOG_WAVER[k] - LOG_WAVER_MIDDLE) / LOG_WAVER_SPREAD) ** 2
    for (let e = 0; e < size; e++) {
      const bell = (shift: number) => -0.5 * ((shift + ERRORS_MM[e]) / waver) ** 2
      let sum = base - 0.5 * (ERRORS_MM[e] / ERROR_SPREAD_MM) ** 2
      for (const { shifts, best } of combs) {
        if (best.length === 0) continue
        const top = Math.max(...shifts.map(bell))
        // A tooth noted alone was not weighed against others that we know of: it counts as a plain measurement.
        const all =
          shifts.length > 2
            ? top + Math.log(shifts.reduce((total, shift) => total + Math.exp(bell(shift) - top), 0))
            : Math.log(waver)
        for (const shift of best) sum += bell(shift) - all
      }
      log[k * size + e] = sum
    }
  }
  const weights = normalise(log)
  const alone = new Float64Array(size)
  for (let cell = 0; cell < weights.length; cell++) alone[cell % size] += weights[cell]
  const posterior = { values: ERRORS_MM, weights: alone }
  return {
    axis,
    errorMm: interval(posterior),
    readings: combs.reduce((sum, comb) => sum + comb.best.length, 0),
    atTheEnd: combs.some(
      ({ shifts, best }) =>
        shifts.length > 2 &&
        best.some((shift) => shift === Math.min(...shifts) || shift === Math.max(...shifts)),
    ),
    posterior,
  }
}

/**
 * The offset to type into the printer: the one it has, and the error measured with it.
 * @param storedMm offset of the second nozzle from the first as the printer has it while the comb was printed
 */
export const correctedOffsetMm = (storedMm: number, errorMm: number): number =>
  Math.round((storedMm + errorMm) * 100) / 100
