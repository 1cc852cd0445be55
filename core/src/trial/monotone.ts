import { counted } from './counted'
import { evenSteps, normalise, sigmoid, sumLogSigmoids, type Posterior } from './posterior'

/**
 * What is believed of a monotone curve before any reading: a threshold in the middle of it, and how wide the
 * step around it is.
 */
export type MonotonePrior = {
  readonly thresholds: Float64Array
  readonly middle: number
  readonly spread: number
  readonly logSteps: Float64Array
  readonly logStepMiddle: number
  readonly logStepSpread: number
}

/**
 * What is known of P(good | x) = sigmoid(sign (x - threshold) / step): sign 1 when larger x are better, -1
 * when smaller ones are. Cell k * thresholds.length + t holds the weight of step k and threshold t; weights
 * sum to 1.
 */
export type Belief = {
  readonly thresholds: Float64Array
  readonly steps: Float64Array
  readonly weights: Float64Array
  readonly sign: 1 | -1
}

/**
 * Grid posterior of one monotone curve.
 * Source: log of the posterior = log of bell-shaped priors + sum of logistic log likelihoods.
 */
export function fitMonotone(
  rows: readonly { readonly x: number; readonly good: boolean }[],
  sign: 1 | -1,
  prior: MonotonePrior,
): Belief {
  const { thresholds, logSteps } = prior
  const different = counted(rows, ({ x, good }) => `${x} ${good}`)
  const size = thresholds.length
  const log = new Float64Array(logSteps.length * size)
  const times = Float64Array.from(different, (row) => row.times)
  const distances = new Float64Array(different.length)
  for (let k = 0; k < logSteps.length; k++) {
    const step = Math.exp(logSteps[k])
    const base = -0.5 * ((logSteps[k] - prior.logStepMiddle) / prior.logStepSpread) ** 2
    for (let t = 0; t < size; t++) {
      for (let i = 0; i < different.length; i++) {
        const { x, good } = different[i]
        const distance = (sign * (x - thresholds[t])) / step
        distances[i] = good ? distance : -distance
      }
      const believed = base - 0.5 * ((thresholds[t] - prior.middle) / prior.spread) ** 2
      log[k * size + t] = believed + sumLogSigmoids(distances, times)
    }
  }
  return { thresholds, steps: logSteps.map(Math.exp), weights: normalise(log), sign }
}

/** The threshold alone. */
export function thresholdOf({ thresholds, steps, weights }: Belief): Posterior {
  const alone = new Float64Array(thresholds.length)
  for (let k = 0; k < steps.length; k++)
    for (let t = 0; t < alone.length; t++) alone[t] += weights[k * alone.length + t]
  return { values: thresholds, weights: alone }
}

/** P(good) at x, in some cells of a belief. */
export function chancePerCell(
  { thresholds, steps, sign }: Belief,
  x: number,
  cells: Uint32Array,
): Float64Array {
  const size = thresholds.length
  const chance = new Float64Array(cells.length)
  for (let i = 0; i < chance.length; i++) {
    const t = cells[i] % size
    chance[i] = sigmoid((sign * (x - thresholds[t])) / steps[(cells[i] - t) / size])
  }
  return chance
}

/** P(good) at x, over all that is believed. */
export function chanceAt({ thresholds, steps, sign, weights }: Belief, x: number): number {
  const size = thresholds.length
  let sum = 0
  for (let k = 0; k < steps.length; k++)
    for (let t = 0; t < size; t++)
      sum += weights[k * size + t] * sigmoid((sign * (x - thresholds[t])) / steps[k])
  return sum
}

/** A prior over an even grid that reaches four spreads to both sides. */
export function evenPrior(
  middle: number,
  spread: number,
  logStepMiddle: number,
  logStepSpread: number,
): MonotonePrior {
  return {
    thresholds: evenSteps(middle - 4 * spread, middle + 4 * spread, 161),
    middle,
    spread,
    logSteps: evenSteps(logStepMiddle - 2.5 * logStepSpread, logStepMiddle + 2.5 * logStepSpread, 11),
    logStepMiddle,
    logStepSpread,
  }
}
