import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { closeTo } from '../testing'
import { evenSteps, interval, logSigmoid, normalise, quantile, sigmoid, sumLogSigmoids } from './posterior'

describe('a posterior on a grid', () => {
  test('quantiles of an even spread are where they should be, however coarse the grid', () => {
    for (const count of [11, 101, 1001]) {
      const values = evenSteps(0, 1, count)
      const weights = normalise(new Float64Array(count))
      for (const q of [0.05, 0.5, 0.95]) closeTo(quantile({ values, weights }, q), q, 0.6 / (count - 1))
    }
  })

  test('of a bell: the median is its middle, nine tenths lie within 1.645 spreads', () => {
    const values = evenSteps(-6, 10, 400)
    const weights = normalise(values.map((x) => -0.5 * ((x - 2) / 1.5) ** 2))
    const { median, low, high } = interval({ values, weights })
    closeTo(median, 2, 0.01)
    closeTo(low, 2 - 1.645 * 1.5, 0.02)
    closeTo(high, 2 + 1.645 * 1.5, 0.02)
  })

  test('weights sum to one even where every likelihood is far below what a number can hold', () => {
    const weights = normalise(Float64Array.from([-5000, -5001, -9000]))
    closeTo(
      weights.reduce((a, b) => a + b, 0),
      1,
      1e-12,
    )
    closeTo(weights[0] / weights[1], Math.E, 1e-9)
    expect(weights[2]).toBe(0)
  })

  test('a higher share never gives a lower quantile', () => {
    const posterior = {
      values: evenSteps(0, 9, 10),
      weights: normalise(Float64Array.from({ length: 10 }, (_, i) => Math.sin(i * 7))),
    }
    const share = fc.double({ min: 0.001, max: 0.999, noNaN: true })
    fc.assert(
      fc.property(share, share, (a, b) =>
        expect(quantile(posterior, Math.min(a, b))).toBeLessThanOrEqual(quantile(posterior, Math.max(a, b))),
      ),
    )
  })
})

test('sigmoid and its logarithm agree, and neither overflows', () => {
  for (const x of [-30, -2, 0, 0.5, 30]) closeTo(Math.exp(logSigmoid(x)), sigmoid(x), 1e-12)
  for (const x of [-1e4, 1e4]) expect(Number.isFinite(logSigmoid(x))).toBe(true)
  closeTo(sigmoid(1.3) + sigmoid(-1.3), 1, 1e-15)
})

test('logarithms taken together are those taken one by one, however many and however far out', () => {
  const one = fc.record({
    x: fc.double({ min: -800, max: 800, noNaN: true }),
    times: fc.constantFrom(1, 1, 1, 2, 7000),
  })
  fc.assert(
    fc.property(fc.array(one), (rows) => {
      const apart = rows.reduce((sum, { x, times }) => sum + times * logSigmoid(x), 0)
      const together = sumLogSigmoids(
        Float64Array.from(rows, ({ x }) => x),
        Float64Array.from(rows, ({ times }) => times),
      )
      closeTo(together, apart, 1e-12 * Math.max(1, Math.abs(apart)))
    }),
  )
  // Past what a product may become: each of these doubles it.
  closeTo(sumLogSigmoids(new Float64Array(5000), new Float64Array(5000).fill(1)), -5000 * Math.LN2, 1e-9)
})
