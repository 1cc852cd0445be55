export { planBodies, solidOfPasses } from './bodies'
export type { BodyColours, Filled } from './bodies'
export { bedAs3mf, planAs3mf } from './planFile3mf'
