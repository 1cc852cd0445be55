export { releaseChain } from './releaseChain'
export type { Bond, ChainInput, ReleaseChain, Remedy } from './releaseChain'
export { reconciled, SURELY_CLEAN } from './reconciled'
export type { MeasuredRelease } from './reconciled'
