export { estimate } from './estimate'
export type { Estimate, FilamentTotal, RoleTotal, Use } from './estimate'
export { supportGrams } from './supportGrams'
