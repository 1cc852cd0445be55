export { findOverhangs } from './findOverhangs'
export type { Island, OverhangOptions, Overhangs, Patch } from './findOverhangs'
