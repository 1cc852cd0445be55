import { TenderError } from '@tender/core'
import { partPaths, type PartPathOptions } from '@tender/core/path'
import type { Layer } from '@tender/core/slice'
import { solidOfPasses, type Filled } from '@tender/core/solid'
import { expose } from 'comlink'
import { answer } from '../answer'
import { breathe } from '../breathe'
import { polygonEngine, solidEngine } from './libraries'

/** Whatever was begun before the last stop is not wanted any more. */
let era = 0
const BREATH_MS = 30

/** Lets a stop in now and then. */
function pulse(): () => Promise<void> {
  const begun = era
  let last = performance.now()
  return async () => {
    if (performance.now() - last < BREATH_MS) return
    await breathe()
    last = performance.now()
    if (era !== begun) throw new TenderError('STOPPED', 'The work was stopped.')
  }
}

const api = {
  /** Walls, skins and fill of every layer, until stopped. */
  trace: (layers: readonly Layer[], options: PartPathOptions) =>
    answer(async () => {
      const beat = pulse()
      return partPaths(layers, await polygonEngine(), options, beat)
    }),

  /** One body of a plan, until stopped. */
  solid: (passes: readonly Filled[]) =>
    answer(async () => {
      const beat = pulse()
      return solidOfPasses(passes, await polygonEngine(), await solidEngine(), beat)
    }),

  stop: () => {
    era++
  },
}
export type BesideApi = typeof api
expose(api)
