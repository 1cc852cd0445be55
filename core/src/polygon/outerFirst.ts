import { regionFromRings, ringAreaMm2, ringCount, ringOf, type Region } from './region'

/**
 * A region with its outer rings before its holes, where that matters: growth tells inside from outside by
 * the first ring that reaches the very edge of a region. A hole may reach it too, where it touches its outer
 * ring, and everything would be turned inside out. The same region when no hole reaches that far.
 */
export function outerFirst(region: Region): Region {
  const { xyMm, starts } = region
  const rings = ringCount(region)
  if (rings < 2) return region
  let [low, high] = [Infinity, -Infinity]
  let holeReaches = false
  for (let r = 0; r < rings; r++) {
    let [ringLow, ringHigh] = [Infinity, -Infinity]
    for (let p = 2 * starts[r] + 1; p < 2 * starts[r + 1]; p += 2) {
      if (xyMm[p] < ringLow) ringLow = xyMm[p]
      if (xyMm[p] > ringHigh) ringHigh = xyMm[p]
    }
    if (ringLow > low && ringHigh < high) continue
    low = Math.min(low, ringLow)
    high = Math.max(high, ringHigh)
    holeReaches ||= ringAreaMm2(xyMm, starts[r], starts[r + 1]) < 0
  }
  if (!holeReaches) return region
  const all = Array.from({ length: rings }, (_, r) => r)
  const isOuter = (r: number) => ringAreaMm2(xyMm, starts[r], starts[r + 1]) >= 0
  return regionFromRings(
    [...all.filter(isOuter), ...all.filter((r) => !isOuter(r))].map((r) => ringOf(region, r)),
  )
}
