export { cutMesh, layerBoundaryMm, sliceMesh } from './sliceMesh'
export type { Checkpoint, Layer, SliceOptions, Slices } from './sliceMesh'
