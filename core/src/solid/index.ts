export { planBodies, solidOfPasses } from './bodies'
export type { BodyColours, BodyEngines, Filled, SolidBeside } from './bodies'
export { bedAs3mf, planAs3mf } from './planFile3mf'
