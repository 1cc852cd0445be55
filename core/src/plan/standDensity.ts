import { farthestApartMm, type Decisions } from '../decide'
import { isEmptyRegion, regionAreaMm2, regionPerimeterMm } from '../polygon'
import type { SupportPass } from '../stand'
import type { HoldingGroup } from './assign'

/** A stand this wide is filled as usual. */
const USUAL_WIDTH_MM = 20
const USUAL = 0.12
const SPARSEST = 0.06
const DENSEST = 0.4

/**
 * How wide the stands of each sentence of the letter are: twice their area over their outline, each layer by
 * its area; null where it has none.
 * Source: for a strip that is its width, for a disc its radius.
 */
export function standWidths(
  passes: readonly SupportPass[],
  groups: readonly Pick<HoldingGroup, 'index'>[],
): (number | null)[] {
  const sums = groups.map(() => ({ area: 0, weighted: 0 }))
  const known = new Map<SupportPass['region'], { area: number; width: number }>()
  for (const { role, region, holding } of passes) {
    const sum = sums[holding]
    if (role !== 'stand' || !sum || isEmptyRegion(region)) continue
    let own = known.get(region)
    if (!own) {
      const area = regionAreaMm2(region)
      known.set(region, (own = { area, width: (2 * area) / Math.max(1e-9, regionPerimeterMm(region)) }))
    }
    sum.area += own.area
    sum.weighted += own.area * own.width
  }
  return sums.map(({ area, weighted }) => (area > 0 ? weighted / area : null))
}

/**
 * Fill that stands of a width want: small ones denser, so that they stand; wide ones sparser, so that they
 * come off and cost little, though never so sparse that what they carry spans more than it is trusted with. A
 * rule of thumb, by the root of the width.
 */
export function suggestedDensity(
  widthMm: number,
  { lineWidthMm, supportSpanMm }: Pick<Decisions, 'lineWidthMm' | 'supportSpanMm'>,
): number {
  const byWidth = USUAL * Math.sqrt(USUAL_WIDTH_MM / widthMm)
  const carries = lineWidthMm / farthestApartMm({ lineWidthMm, supportSpanMm })
  return Math.ceil(100 * Math.min(1, Math.max(SPARSEST, carries, Math.min(DENSEST, byWidth))) - 1e-9) / 100
}
