import {
  boxOf,
  isEmptyRegion,
  regionAreaMm2,
  regionPerimeterMm,
  type PolygonEngine,
  type Region,
} from '../polygon'

/**
 * Whether nothing of a region is more than twice as wide as that: rounding, or thinned outlines.
 * Source: what shrinking takes off is no more than its depth times the outline's length.
 */
export function isHair(region: Region, mm: number, engine: Pick<PolygonEngine, 'grow'>): boolean {
  if (isEmptyRegion(region)) return true
  const { minX, minY, maxX, maxY } = boxOf(region)
  if (Math.min(maxX - minX, maxY - minY) < 2 * mm) return true
  // Twice as much, as corners of holes take off a little more.
  if (regionAreaMm2(region) > 2 * mm * regionPerimeterMm(region)) return false
  return isEmptyRegion(engine.grow(region, -mm, 'miter'))
}
