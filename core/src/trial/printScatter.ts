import { evenSteps } from './posterior'

/**
 * How far thresholds of single prints lie around that of their pairing: another evening, another first layer,
 * another corner of the spool. Starting guess: some hundredths of a millimetre, known within a factor of two.
 */
const LOG_SCATTER = evenSteps(Math.log(0.006), Math.log(0.12), 6)
const MIDDLE = Math.log(0.03)
const SPREAD = 0.7

export const SCATTERS_MM = Array.from(LOG_SCATTER, Math.exp)
export const LOG_SCATTER_PRIOR = LOG_SCATTER.map((log) => -0.5 * ((log - MIDDLE) / SPREAD) ** 2)

/**
 * Bells have thick ends: an evening on which everything went wrong is one that happens, and is not followed
 * all the way.
 */
const FREEDOM = 3
const REACH = 5

const bells = new Map<string, Float64Array>()
/** Weights of Student's t on a lattice, from its middle to its reach; those of both sides sum to 1. */
function bellOf(spread: number, lattice: number): Float64Array {
  const key = `${spread} ${lattice}`
  let bell = bells.get(key)
  if (!bell) {
    const reach = Math.ceil((REACH * spread) / lattice)
    const raw = Float64Array.from({ length: reach + 1 }, (_, d) =>
      Math.pow(1 + ((d * lattice) / spread) ** 2 / FREEDOM, -(FREEDOM + 1) / 2),
    )
    const sum = 2 * raw.reduce((a, b) => a + b, 0) - raw[0]
    bells.set(key, (bell = raw.map((weight) => weight / sum)))
  }
  return bell
}

/** Values over a lattice, each spread out as a bell. What lies beyond the lattice counts like its end. */
export function spreadOut(values: Float64Array, spread: number, lattice: number): Float64Array {
  const bell = bellOf(spread, lattice)
  const reach = bell.length - 1
  const padded = new Float64Array(values.length + 2 * reach)
  padded.fill(values[0], 0, reach)
  padded.set(values, reach)
  padded.fill(values[values.length - 1], reach + values.length)
  const out = new Float64Array(values.length)
  for (let t = 0; t < out.length; t++) {
    const middle = t + reach
    let sum = bell[0] * padded[middle]
    for (let d = 1; d <= reach; d++) sum += bell[d] * (padded[middle - d] + padded[middle + d])
    out[t] = sum
  }
  return out
}

/**
 * What a print says of the common threshold, for each spread: its likelihood over its own one, summed over
 * where that may lie around the common one.
 * Source: partial pooling, log of the sum over d of L(t + d) t(d; spread).
 */
export function betweenPrints(
  logLikelihood: Float64Array,
  spreads: readonly number[],
  lattice: number,
): Float64Array[] {
  const top = logLikelihood.reduce((a, b) => Math.max(a, b), -Infinity)
  const likelihood = logLikelihood.map((log) => Math.exp(log - top))
  return spreads.map((spread) =>
    spreadOut(likelihood, spread, lattice).map((sum) => Math.log(Math.max(sum, 1e-300))),
  )
}
