export { containment } from './containment'
export { crossingsOf, headingOf } from './crossings'
export type { Heading } from './crossings'
export { loadPolygonEngine } from './engine'
export type { Corner, PolygonEngine } from './engine'
export { growBy, reachOf } from './growBy'
export type { Reach } from './growBy'
export { latticeCrossings, latticeHeight } from './latticeCrossings'
export { hatch } from './hatch'
export type { Segments } from './hatch'
export { crossesSides } from './crossesSides'
export { areApart, boxOf, wereApart } from './lie'
export { nearSides } from './nearSides'
export { withoutNeedles } from './needles'
export { stackEngine } from './piecewise'
export type { RememberingEngine } from './remembering'
export { thinned, thinnedLine } from './thin'
export { dropSmallPieces, joinPieces, splitPieces } from './pieces'
export { piecesNear } from './piecesNear'
export {
  BACKWARD_FRAME,
  boundsAround,
  boundsOf,
  boundsOverlap,
  boxRegion,
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
