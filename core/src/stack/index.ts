export { planStack } from './planStack'
export type { Stack, StackInput, StackMode } from './planStack'
