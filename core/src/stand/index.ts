export { straightStands } from './straightStands'
export type { StandOptions, Stands } from './straightStands'
export { supportPasses } from './supportPasses'
export type { SupportOptions, SupportPass, SupportPasses } from './supportPasses'
