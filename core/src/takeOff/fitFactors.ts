import type { Interval } from '../trial'

/** One measurement: a sum of known shares, each times an unknown factor. */
export type MeasuredSum = { readonly shares: readonly number[]; readonly measured: number }

export type FactorOptions = {
  readonly middle: number
  readonly spread: number
  /** How far measurements may scatter; summed over. */
  readonly scatters: readonly number[]
}

/**
 * Factors behind sums that were measured, with intervals that hold the truth nine times in ten: measured =
 * sum of shares x factors + scatter. Factors that nothing speaks for stay what was believed.
 *
 * Source: Bayesian linear regression, one row after the other (gain = P x / (x P x + r)), weighed over the
 * scatters by how well each foretells the rows.
 */
export function fitFactors(
  rows: readonly MeasuredSum[],
  count: number,
  { middle, spread, scatters }: FactorOptions,
): Interval[] {
  const fits = scatters.map((scatter) => {
    const mean = new Float64Array(count).fill(middle)
    const cover = new Float64Array(count * count)
    for (let i = 0; i < count; i++) cover[i * count + i] = spread * spread
    let log = 0
    for (const { shares, measured } of rows) {
      const gain = Float64Array.from({ length: count }, (_, i) =>
        shares.reduce((sum, share, j) => sum + cover[i * count + j] * share, 0),
      )
      const variance = shares.reduce((sum, share, i) => sum + share * gain[i], scatter * scatter)
      const missed = measured - shares.reduce((sum, share, i) => sum + share * mean[i], 0)
      log -= 0.5 * (Math.log(variance) + (missed * missed) / variance)
      const before = Float64Array.from(gain)
      for (let i = 0; i < count; i++) {
        mean[i] += (gain[i] / variance) * missed
        for (let j = 0; j < count; j++) cover[i * count + j] -= (before[i] * before[j]) / variance
      }
    }
    return { mean, cover, log }
  })
  const top = Math.max(...fits.map(({ log }) => log))
  const weights = fits.map(({ log }) => Math.exp(log - top))
  const all = weights.reduce((a, b) => a + b, 0)
  return Array.from({ length: count }, (_, i) => {
    let [mean, square] = [0, 0]
    fits.forEach((fit, s) => {
      const weight = weights[s] / all
      mean += weight * fit.mean[i]
      square += weight * (fit.cover[i * count + i] + fit.mean[i] * fit.mean[i])
    })
    const wide = 1.645 * Math.sqrt(Math.max(0, square - mean * mean))
    return { median: mean, low: mean - wide, high: mean + wide }
  })
}
