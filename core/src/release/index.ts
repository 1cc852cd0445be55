export { releaseChain } from './releaseChain'
export type { Bond, ChainInput, ReleaseChain, Remedy } from './releaseChain'
