import { wrap, type Remote } from 'comlink'
import type { FittingApi } from './fittingWork'

let started: Remote<FittingApi> | null = null

/** The thread that fits readings. */
export const fitting = (): Remote<FittingApi> =>
  (started ??= wrap<FittingApi>(
    new Worker(new URL('./fitting.worker.ts', import.meta.url), { type: 'module', name: 'fitting' }),
  ))
