import { isEmptyRegion, type PolygonEngine, type Region } from '../polygon'

/** Whether nothing of a region is more than twice as wide as that: rounding, or thinned outlines. */
export const isHair = (region: Region, mm: number, engine: Pick<PolygonEngine, 'grow'>): boolean =>
  isEmptyRegion(region) || isEmptyRegion(engine.grow(region, -mm, 'miter'))
