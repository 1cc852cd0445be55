import { TenderError } from '@tender/core'
import { partPaths, type PartPathOptions } from '@tender/core/path'
import { loadPolygonEngine } from '@tender/core/polygon'
import type { Layer } from '@tender/core/slice'
import { expose } from 'comlink'
import polygonWasm from 'clipper2-wasm/dist/es/clipper2z.wasm?url'
import { answer } from './answer'
import { breathe } from './breathe'
import { once } from './once'

const polygonEngine = once(async () => loadPolygonEngine(await (await fetch(polygonWasm)).arrayBuffer()))
/** Whatever was begun before the last stop is not wanted any more. */
let era = 0
const BREATH_MS = 30

const api = {
  /** Walls, skins and fill of every layer, until stopped. */
  trace: (layers: readonly Layer[], options: PartPathOptions) =>
    answer(async () => {
      const begun = era
      let last = performance.now()
      return partPaths(layers, await polygonEngine(), options, async () => {
        if (performance.now() - last < BREATH_MS) return
        await breathe()
        last = performance.now()
        if (era !== begun) throw new TenderError('STOPPED', 'The work was stopped.')
      })
    }),

  stop: () => {
    era++
  },
}
export type TracingApi = typeof api
expose(api)
