export { estimate, ROLES, speedsOf } from './estimate'
export type { Estimate, FilamentTotal, Role, RoleTotal, Use } from './estimate'
export { supportGrams } from './supportGrams'
