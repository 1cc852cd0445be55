import type { Interval } from './readings'

/** A probability spread over ascending values; weights sum to 1. */
export type Posterior = { readonly values: Float64Array; readonly weights: Float64Array }

/** `count` values from low to high at even distances. */
export function evenSteps(low: number, high: number, count: number): Float64Array {
  return Float64Array.from({ length: count }, (_, i) => low + ((high - low) * i) / (count - 1))
}

export const sigmoid = (x: number): number => 1 / (1 + Math.exp(-x))

/** log(sigmoid(x)) without overflow. */
export const logSigmoid = (x: number): number =>
  x > 0 ? -Math.log1p(Math.exp(-x)) : x - Math.log1p(Math.exp(x))

/** A product of numbers from 1 to 2 up to here is far from overflowing. */
const MUCH = 1e200

/**
 * Sum of `times` log(sigmoid(x)): log likelihood of what went as it did so many times. Of those that happened
 * once the logarithm is taken together.
 */
export function sumLogSigmoids(xs: Float64Array, times: Float64Array): number {
  let sum = 0
  let product = 1
  for (let i = 0; i < xs.length; i++) {
    const x = xs[i]
    const rest = Math.exp(-Math.abs(x))
    if (x < 0) sum += times[i] * x
    if (times[i] !== 1) sum -= times[i] * Math.log1p(rest)
    else product *= 1 + rest
    if (product < MUCH) continue
    sum -= Math.log(product)
    product = 1
  }
  return sum - Math.log(product)
}

/**
 * Turns log weights into weights that sum to 1.
 * Source: log-sum-exp, the largest taken out first.
 */
export function normalise(logWeights: Float64Array): Float64Array {
  const top = logWeights.reduce((a, b) => Math.max(a, b), -Infinity)
  const weights = logWeights.map((w) => Math.exp(w - top))
  const sum = weights.reduce((a, b) => a + b, 0)
  return weights.map((w) => w / sum)
}

/**
 * Value below which the share q of the probability lies. Each grid value stands for the cell around it;
 * within a cell the probability is taken as even, so that a coarse grid does not round the answer.
 */
export function quantile({ values, weights }: Posterior, q: number): number {
  let sum = 0
  for (let i = 0; i < values.length; i++) {
    if (sum + weights[i] >= q && weights[i] > 0) {
      const low = i > 0 ? (values[i - 1] + values[i]) / 2 : values[i]
      const high = i + 1 < values.length ? (values[i] + values[i + 1]) / 2 : values[i]
      return low + ((high - low) * (q - sum)) / weights[i]
    }
    sum += weights[i]
  }
  return values[values.length - 1]
}

export const interval = (posterior: Posterior): Interval => ({
  median: quantile(posterior, 0.5),
  low: quantile(posterior, 0.05),
  high: quantile(posterior, 0.95),
})
