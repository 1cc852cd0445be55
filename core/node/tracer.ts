import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import { partPaths, type ToolPaths } from '../src/path'
import type { Tracer } from '../src/plan'
import type { Layer } from '../src/slice'
import type { Asked, Traced } from './tracing'
import { polygonEngine } from './engines'

/** Outlines of fewer points are traced sooner than a thread is up. */
const WORTH_A_THREAD = 100_000

/**
 * Traces a part’s lines in a thread of its own, beside whoever plans the supports; small parts right here.
 * The thread comes up with the first part that is worth it, and keeps no process alive.
 */
export function tracerBeside(): Tracer {
  let worker: Worker | null = null
  let asked = 0
  const waiting = new Map<number, { resolve(paths: ToolPaths[]): void; reject(error: Error): void }>()
  const giveUp = (error: Error) => {
    worker = null
    for (const { reject } of waiting.values()) reject(error)
    waiting.clear()
  }
  const begin = (): Worker => {
    const begun = new Worker(fileURLToPath(new URL('./tracing.mjs', import.meta.url)))
    begun.on('message', (answer: Traced) => {
      const one = waiting.get(answer.id)
      waiting.delete(answer.id)
      if (waiting.size === 0) begun.unref()
      if ('paths' in answer) one?.resolve([...answer.paths])
      else one?.reject(new Error(answer.failure))
    })
    begun.on('error', giveUp)
    return begun
  }
  return async (layers, options) => {
    if (pointsOf(layers) < WORTH_A_THREAD) return partPaths(layers, await polygonEngine(), options)
    return new Promise((resolve, reject) => {
      worker ??= begin()
      worker.ref()
      const id = ++asked
      waiting.set(id, { resolve, reject })
      worker.postMessage({ id, layers, options } satisfies Asked)
    })
  }
}

function pointsOf(layers: readonly Layer[]): number {
  let points = 0
  for (const { region } of layers) points += region.xyMm.length / 2
  return points
}
