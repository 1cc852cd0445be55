import { counted } from './counted'
import { evenSteps, normalise } from './posterior'
import type { GapReading, Interval } from './readings'

export type PullFit = {
  readonly readings: number
  /** Cells of (log force per area when touching, fall per mm, scatter) with their weights, which sum to 1. */
  readonly belief: {
    readonly logT0: Float64Array
    readonly fall: Float64Array
    readonly scatter: Float64Array
    readonly weights: Float64Array
  }
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
 * Fits pull forces over the gap; null without any. A force counts with its tile's area, and with the share of
 * it that lines cover: w / (w + spacing).
 * Source: log-linear regression on a grid with bell-shaped priors; see docs/method.md.
 * @param lineWidthMm w of readings that do not say their own
 */
export function fitPull(readings: readonly GapReading[], lineWidthMm: number): PullFit | null {
  const rows = readings.flatMap(({ gapMm, spacingMm, forceN, areaMm2, lineWidthMm: w = lineWidthMm }) =>
    forceN !== null && forceN > 0 && areaMm2 !== null
      ? [{ gapMm, log: Math.log(forceN / areaMm2 / (w / (w + spacingMm))) }]
      : [],
  )
  if (rows.length === 0) return null
  const different = counted(rows, ({ gapMm, log: pull }) => `${gapMm} ${pull}`)
  const size = LOG_T0.values.length * FALL.values.length * LOG_SCATTER.values.length
  const [logT0, fall, scatter, log] = Array.from({ length: 4 }, () => new Float64Array(size))
  const bell = (x: number, { middle, spread }: { middle: number; spread: number }) =>
    -0.5 * ((x - middle) / spread) ** 2
  let cell = 0
  for (const t0 of LOG_T0.values)
    for (const steep of FALL.values)
      for (const logScatter of LOG_SCATTER.values) {
        const wide = Math.exp(logScatter)
        let sum = bell(t0, LOG_T0) + bell(steep, FALL) + bell(logScatter, LOG_SCATTER)
        for (const row of different)
          sum += row.times * (-0.5 * ((row.log - (t0 - steep * row.gapMm)) / wide) ** 2 - logScatter)
        logT0[cell] = t0
        fall[cell] = steep
        scatter[cell] = wide
        log[cell++] = sum
      }
  return { readings: rows.length, belief: { logT0, fall, scatter, weights: normalise(log) } }
}

/**
 * Force per contact area at a gap, solid interface: median and the interval of one pull more, N/mm2.
 * Source: mean and variance of a mixture; 1.645 spreads hold nine tenths of a bell.
 */
export function pullAt({ belief: { logT0, fall, scatter, weights } }: PullFit, gapMm: number): Interval {
  // The spread of the line and the scatter around it, as one bell.
  let mean = 0
  let square = 0
  for (let cell = 0; cell < weights.length; cell++) {
    const middle = logT0[cell] - fall[cell] * gapMm
    mean += weights[cell] * middle
    square += weights[cell] * (middle * middle + scatter[cell] * scatter[cell])
  }
  const spread = Math.sqrt(Math.max(0, square - mean * mean))
  return {
    median: Math.exp(mean),
    low: Math.exp(mean - 1.645 * spread),
    high: Math.exp(mean + 1.645 * spread),
  }
}
