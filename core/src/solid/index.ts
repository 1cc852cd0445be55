export { planBodies, solidOfPasses } from './bodies'
export type { BodyColours, Filled } from './bodies'
export { SAME_POINT_STEPS, stackSolid } from './stackSolid'
export type { Slab } from './stackSolid'
