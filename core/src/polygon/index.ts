export { loadPolygonEngine } from './engine'
export type { Corner, PolygonEngine } from './engine'
export { hatch } from './hatch'
export type { Segments } from './hatch'
export { dropSmallPieces, joinPieces, splitPieces } from './pieces'
export {
  boundsOf,
  boundsOverlap,
  EMPTY_REGION,
  isEmptyRegion,
  regionAreaMm2,
  regionContains,
  regionFromRings,
  regionPerimeterMm,
  ringAreaMm2,
  ringCount,
  ringOf,
  sameRegion,
} from './region'
export type { Bounds2, Region } from './region'
