export { straightStands } from './straightStands'
export type { StandOptions, Stands } from './straightStands'
export { supportPasses } from './supportPasses'
export type { PassMemo, SupportOptions, SupportPass, SupportPasses } from './supportPasses'
