import type { Decisions } from './decisions'

/**
 * How far stand lines may lie apart: lines slanted across them by half a right angle span no more than they
 * are trusted with.
 * Source: (apart - line width) * sqrt(2) <= span.
 */
export const farthestApartMm = ({
  lineWidthMm,
  supportSpanMm,
}: Pick<Decisions, 'lineWidthMm' | 'supportSpanMm'>): number =>
  Math.min(supportSpanMm, supportSpanMm / Math.SQRT2 + lineWidthMm)
