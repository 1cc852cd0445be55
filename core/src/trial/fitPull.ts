import { counted } from './counted'
import { evenSteps, normalise } from './posterior'
import type { GapReading, Interval } from './readings'

export type PullFit = {
  /** Force per contact area at a gap, solid interface: median and the interval of one pull, N/mm2. */
  readonly at: (gapMm: number) => Interval
  readonly readings: number
}

// Log-linear in the gap: F / A = t0 exp(-g / l) cover. Weak priors on log t0, 1 / l and the scatter of pulls.
const LOG_T0 = {
  values: evenSteps(Math.log(0.05) - 4, Math.log(0.05) + 4, 41),
  middle: Math.log(0.05),
  spread: 1.5,
}
const FALL = { values: evenSteps(0, 40, 41), middle: 12, spread: 8 }
const LOG_SCATTER = {
  values: evenSteps(Math.log(0.3) - 1.5, Math.log(0.3) + 1.5, 7),
  middle: Math.log(0.3),
  spread: 0.5,
}

/**
 * Fits pull forces over the gap; null without any. A force counts with its tile's area, and with the share of it that lines cover:
 * w / (w + spacing).
 */
export function fitPull(readings: readonly GapReading[], lineWidthMm: number): PullFit | null {
  const rows = readings.flatMap(({ gapMm, spacingMm, forceN, areaMm2 }) =>
    forceN !== null && forceN > 0 && areaMm2 !== null
      ? [{ gapMm, log: Math.log(forceN / areaMm2 / (lineWidthMm / (lineWidthMm + spacingMm))) }]
      : [],
  )
  if (rows.length === 0) return null
  const different = counted(rows, ({ gapMm, log: pull }) => `${gapMm} ${pull}`)
  const cells: { t0: number; fall: number; scatter: number }[] = []
  const log: number[] = []
  const bell = (x: number, { middle, spread }: { middle: number; spread: number }) =>
    -0.5 * ((x - middle) / spread) ** 2
  for (const t0 of LOG_T0.values)
    for (const fall of FALL.values)
      for (const logScatter of LOG_SCATTER.values) {
        const scatter = Math.exp(logScatter)
        let sum = bell(t0, LOG_T0) + bell(fall, FALL) + bell(logScatter, LOG_SCATTER)
        for (const row of different)
          sum += row.times * (-0.5 * ((row.log - (t0 - fall * row.gapMm)) / scatter) ** 2 - logScatter)
        cells.push({ t0, fall, scatter })
        log.push(sum)
      }
  const weights = normalise(Float64Array.from(log))
  return {
    readings: rows.length,
    at(gapMm) {
      // One pull more: the spread of the line and the scatter around it, as one bell.
      let mean = 0
      let square = 0
      cells.forEach(({ t0, fall, scatter }, cell) => {
        const middle = t0 - fall * gapMm
        mean += weights[cell] * middle
        square += weights[cell] * (middle * middle + scatter * scatter)
      })
      const spread = Math.sqrt(Math.max(0, square - mean * mean))
      return {
        median: Math.exp(mean),
        low: Math.exp(mean - 1.645 * spread),
        high: Math.exp(mean + 1.645 * spread),
      }
    },
  }
}
