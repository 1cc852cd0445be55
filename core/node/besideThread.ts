import { parentPort } from 'node:worker_threads'
import { partPaths, type PartPathOptions } from '../src/path'
import type { Layer } from '../src/slice'
import { solidOfPasses, type Filled } from '../src/solid'
import { polygonEngine, solidEngine } from './engines'

/** What a thread is asked for: the lines of a part, or a solid. */
export type Asked =
  | { readonly layers: readonly Layer[]; readonly options: PartPathOptions }
  | { readonly passes: readonly Filled[] }
export type Answered = { readonly id: number } & ({ readonly value: unknown } | { readonly failure: string })

const port = parentPort!
port.on('message', ({ id, asked }: { readonly id: number; readonly asked: Asked }) => {
  void work(asked)
    .then(
      (value): Answered => ({ id, value }),
      (error: unknown): Answered => ({ id, failure: String(error) }),
    )
    .then((answer) => port.postMessage(answer))
})

async function work(asked: Asked): Promise<unknown> {
  if ('layers' in asked) return partPaths(asked.layers, await polygonEngine(), asked.options)
  return solidOfPasses(asked.passes, await polygonEngine(), await solidEngine(), () => undefined)
}
