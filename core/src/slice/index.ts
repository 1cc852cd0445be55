export { overlapExtent } from './overlaps'
export type { Overlap, OverlapExtent } from './overlaps'
export { cutMesh, layerBoundaryMm, slicedVolumeMm3, sliceMesh } from './sliceMesh'
export type { Checkpoint, Layer, SliceOptions, Slices } from './sliceMesh'
