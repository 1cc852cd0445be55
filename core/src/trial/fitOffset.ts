import { counted } from './counted'
import { evenSteps, interval, normalise, type Posterior } from './posterior'
import { AXES, type Axis, type Interval, type OffsetReading } from './readings'

export type AxisFit = {
  readonly axis: Axis
  /**
   * Where the second nozzle prints, seen from where it was told to, mm: what the offset stored in the printer
   * is wrong by.
   */
  readonly errorMm: Interval
  /** Teeth named as lining up best. */
  readonly readings: number
  /** The best tooth was the last of its comb: the truth may lie beyond. */
  readonly atTheEnd: boolean
  readonly posterior: Posterior
}
export type OffsetFit = { readonly axes: readonly AxisFit[]; readonly readings: number }

const ERROR_STEP_MM = 0.0025
const USUAL_ERROR_MM = 0.8
/** The error may lie beyond the last tooth of a comb: looked for this far. */
const BEYOND_MM = 1
/**
 * Errors are believed to be about this large; far larger ones remain possible, or a comb that finds one would
 * not be believed.
 */
const USUAL_SPREAD_MM = 0.35
/** How far off a tooth may be and still be taken for the best; its prior as a logarithm. */
const LOG_WAVER = evenSteps(Math.log(0.03) - 1.25, Math.log(0.03) + 1.25, 9)
const LOG_WAVER_MIDDLE = Math.log(0.03)
const LOG_WAVER_SPREAD = 0.5

/**
 * Fits the error of the second nozzle's offset, each axis for itself.
 *
 * A comb is read like a vernier: the tooth whose shift cancels the error lines up. The maker picks tooth i of
 * a comb with probability exp(-(s_i + e)^2 / 2 w^2) over the sum of the same for all its teeth; the posterior
 * is summed on a grid over error e and waver w. Several teeth named on one comb, and combs printed again,
 * each add a pick. Before any of it e has the density 1 / (1 + (e / e0)^2).
 * Source: softmax choice among teeth, a Cauchy prior on the error; see docs/method.md.
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
      teeth: teeth.length,
      shifts: counted(
        teeth.map(({ shiftMm }) => ({ shiftMm })),
        ({ shiftMm }) => String(shiftMm),
      ),
      best: counted(
        teeth.filter(({ grade }) => grade === 1).map(({ shiftMm }) => ({ shiftMm })),
        ({ shiftMm }) => String(shiftMm),
      ),
    }
  })
  const most = readings.reduce((far, { shiftMm }) => Math.max(far, Math.abs(shiftMm)), 0)
  const reach = Math.ceil(Math.max(USUAL_ERROR_MM, most + BEYOND_MM) / ERROR_STEP_MM)
  const errorsMm = evenSteps(-reach * ERROR_STEP_MM, reach * ERROR_STEP_MM, 2 * reach + 1)
  const size = errorsMm.length
  const log = new Float64Array(LOG_WAVER.length * size)
  for (let k = 0; k < LOG_WAVER.length; k++) {
    const waver = Math.exp(LOG_WAVER[k])
    const base = -0.5 * ((LOG_WAVER[k] - LOG_WAVER_MIDDLE) / LOG_WAVER_SPREAD) ** 2
    for (let e = 0; e < size; e++) {
      const bell = (shift: number) => -0.5 * ((shift + errorsMm[e]) / waver) ** 2
      let sum = base - Math.log1p((errorsMm[e] / USUAL_SPREAD_MM) ** 2)
      for (const { teeth, shifts, best } of combs) {
        if (best.length === 0) continue
        let top = -Infinity
        for (const { shiftMm } of shifts) top = Math.max(top, bell(shiftMm))
        // A tooth noted alone was not weighed against others that we know of: it counts as a plain
        // measurement.
        const all =
          teeth > 2
            ? top +
              Math.log(
                shifts.reduce((total, one) => total + one.times * Math.exp(bell(one.shiftMm) - top), 0),
              )
            : Math.log(waver)
        for (const { shiftMm, times } of best) sum += times * (bell(shiftMm) - all)
      }
      log[k * size + e] = sum
    }
  }
  const weights = normalise(log)
  const alone = new Float64Array(size)
  for (let cell = 0; cell < weights.length; cell++) alone[cell % size] += weights[cell]
  const posterior = { values: errorsMm, weights: alone }
  return {
    axis,
    errorMm: interval(posterior),
    readings: combs.reduce((sum, comb) => sum + comb.best.reduce((n, { times }) => n + times, 0), 0),
    atTheEnd: combs.some(({ teeth, shifts, best }) => {
      const all = shifts.map(({ shiftMm }) => shiftMm)
      const ends = [Math.min(...all), Math.max(...all)]
      return teeth > 2 && best.some(({ shiftMm }) => ends.includes(shiftMm))
    }),
    posterior,
  }
}

/**
 * The offset to type into the printer: the one it has, and the error measured with it.
 * @param storedMm offset of the second nozzle from the first as the printer has it while the comb was printed
 */
export const correctedOffsetMm = (storedMm: number, errorMm: number): number =>
  Math.round((storedMm + errorMm) * 100) / 100
