import { parentPort } from 'node:worker_threads'
import { partPaths, type PartPathOptions, type ToolPaths } from '../src/path'
import type { Layer } from '../src/slice'
import { polygonEngine } from './engines'

export type Asked = {
  readonly id: number
  readonly layers: readonly Layer[]
  readonly options: PartPathOptions
}
export type Traced = { readonly id: number } & (
  { readonly paths: readonly ToolPaths[] } | { readonly failure: string }
)

const port = parentPort!
port.on('message', ({ id, layers, options }: Asked) => {
  void polygonEngine()
    .then((engine) => partPaths(layers, engine, options))
    .then(
      (paths): Traced => ({ id, paths }),
      (error: unknown): Traced => ({ id, failure: String(error) }),
    )
    .then((answer) => port.postMessage(answer))
})
