import { chanceAt, evenPrior, fitMonotone, thresholdOf, type Belief } from './monotone'
import { evenSteps, interval, quantile } from './posterior'
import type { Grade, Interval, SpanReading } from './readings'

export type SpanOptions = {
  /** Worst grade that still counts as good. */ readonly accept: Grade
  readonly caution: number
}
export const SPAN_DEFAULTS: SpanOptions = { accept: 2, caution: 0.1 }

export type SpanFit = {
  /** Span that half of the bridges cope with, and the cautious one. */
  readonly freeSpanMm: Interval & { readonly cautious: number }
  readonly readings: number
  readonly curve: { readonly spansMm: Float64Array; readonly good: Float64Array }
  /** Over the logarithm of the span. */
  readonly belief: Belief
}

// Weak prior: 25 mm within a factor of four, and a step from good to bad of about a tenth of the span.
const PRIOR = evenPrior(Math.log(25), 0.7, Math.log(0.12), 0.6)

/**
 * Fits the free span to the bridges of ladders: P(good | s) = sigmoid((log s* - log s) / k), summed over a
 * grid of (log s*, k). Without readings the answer is the prior itself.
 * Source: logistic regression on a grid over the logarithm of the span; see docs/method.md.
 */
export function fitSpan(readings: readonly SpanReading[], options: SpanOptions = SPAN_DEFAULTS): SpanFit {
  const belief = fitMonotone(
    readings.map(({ spanMm, grade }) => ({ x: Math.log(spanMm), good: grade <= options.accept })),
    -1,
    PRIOR,
  )
  const threshold = thresholdOf(belief)
  const { median, low, high } = interval(threshold)
  const spansMm = evenSteps(2, 120, 60)
  return {
    freeSpanMm: {
      median: Math.exp(median),
      low: Math.exp(low),
      high: Math.exp(high),
      cautious: Math.exp(quantile(threshold, options.caution)),
    },
    readings: readings.length,
    curve: { spansMm, good: spansMm.map((span) => chanceAt(belief, Math.log(span))) },
    belief,
  }
}
