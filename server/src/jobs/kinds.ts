import { BETTER_PLANS } from '../searches/betterPlans'
import { POSE_SEARCH } from '../searches/poseSearch'
import type { AnyKind, JobKind } from './kind'

const any = <I, W, R>(kind: JobKind<I, W, R>): AnyKind => kind as unknown as AnyKind

/** Every kind of long work that a worker can do. */
export const KINDS: readonly AnyKind[] = [any(POSE_SEARCH), any(BETTER_PLANS)]
