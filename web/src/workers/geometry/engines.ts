import { createPlanner } from '@tender/core/plan'
import type { Filled } from '@tender/core/solid'
import { wrap, type Remote } from 'comlink'
import { unwrap, type Answer } from '../answer'
import { once } from '../once'
import type { BesideApi } from './beside.worker'
import { polygonEngine, solidEngine } from './libraries'

/** All that a file of bodies takes. */
export const engines = async () => ({
  polygons: await polygonEngine(),
  solids: await solidEngine(),
  beside: (passes: readonly Filled[]) => askedBeside((api) => api.solid(passes)),
})
/** The planner of this thread, with all it keeps. */
export const thePlanner = once(async () =>
  createPlanner(await polygonEngine(), (layers, options) => askedBeside((api) => api.trace(layers, options))),
)

let beside: { readonly api: Remote<BesideApi>; readonly lost: Promise<never> } | null = null
/**
 * Asks the thread beside this one, for the lines of a part or for a body; one that does not come up is given
 * up, and asked for anew the next time.
 */
function askedBeside<T>(ask: (api: Remote<BesideApi>) => Promise<Answer<T>>): Promise<T> {
  if (!beside) {
    const worker = new Worker(new URL('./beside.worker.ts', import.meta.url), {
      type: 'module',
      name: 'beside',
    })
    const lost = new Promise<never>((_, reject) => {
      worker.onerror = () => {
        beside = null
        worker.terminate()
        reject(new Error('The thread for lines and bodies did not come up.'))
      }
    })
    lost.catch(() => undefined)
    beside = { api: wrap<BesideApi>(worker), lost }
  }
  return Promise.race([unwrap(ask(beside.api)), beside.lost])
}

/** Whatever the thread beside this one works on is no longer wanted. */
export function stopBeside(): void {
  if (beside) void beside.api.stop()
}
