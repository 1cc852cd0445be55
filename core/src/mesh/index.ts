export { meshEdges } from './edges'
export { sharedSides } from './sharedSides'
export type { Edges } from './edges'
export { coarsen } from './coarsen'
export { mendMesh, mendSentences } from './mendMesh'
export type { MendReport, ShellPlace } from './mendMesh'
export {
  bodiesOf,
  compact,
  meshBounds,
  meshOfBodies,
  triangleCount,
  weldCorners,
  weldTriangles,
} from './mesh'
export type { Body, Bounds3, Mesh } from './mesh'
export { openMesh } from './openMesh'
export type { OpenedMesh } from './openMesh'
export { packMesh, unpackMesh } from './packedMesh'
export type { PackedMesh } from './packedMesh'
export { guessUnit, meshFacts } from './meshFacts'
export type { MeshFacts, UnitGuess } from './meshFacts'
export {
  applyPlacing,
  composeTurns,
  placingOf,
  poseMesh,
  turnAbout,
  turnFaceDown,
  turnMatrix,
  unplaced,
  UPRIGHT,
} from './pose'
export type { Placing, Pose } from './pose'
export { MESH_ENDINGS, readMesh, saysUnit } from './readMesh'
export type { ReadMesh } from './readMesh'
export { readStl } from './readStl'
export { writeStl } from './writeStl'
export { demoParts } from './demoParts'
export type { DemoPart } from './demoParts'
export { loadSolidEngine, meshOfSolid } from './solids'
export type { SolidEngine } from './solids'
export { write3mf } from './threeMf/write3mf'
export type { Body3mf } from './threeMf/write3mf'
