import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import { partPaths, type ToolPaths } from '../src/path'
import type { Tracer } from '../src/plan'
import { solidOfPasses, type SolidBeside } from '../src/solid'
import type { Region } from '../src/polygon'
import type { Mesh } from '../src/mesh'
import type { Answered, Asked } from './besideThread'
import { polygonEngine, solidEngine } from './engines'

/** Work on outlines of fewer points is done sooner than a thread is up. */
const POINTS_TO_TRACE = 100_000
const POINTS_TO_STACK = 6_000

/** A second thread for a plan. */
export type Beside = {
  /** Traces a part’s lines while its supports are planned. */
  readonly trace: Tracer
  /** Makes one body while another one is made. */
  readonly solid: SolidBeside
}

/**
 * A thread beside whoever plans; small work is done right here. The thread comes up with the first work that
 * is worth it, and keeps no process alive.
 */
export function workBeside(): Beside {
  let worker: Worker | null = null
  let asked = 0
  const waiting = new Map<number, { resolve(value: unknown): void; reject(error: Error): void }>()
  const giveUp = (error: Error) => {
    worker = null
    for (const { reject } of waiting.values()) reject(error)
    waiting.clear()
  }
  const begin = (): Worker => {
    const begun = new Worker(fileURLToPath(new URL('./besideThread.mjs', import.meta.url)))
    begun.on('message', (answer: Answered) => {
      const one = waiting.get(answer.id)
      waiting.delete(answer.id)
      if (waiting.size === 0) begun.unref()
      if ('value' in answer) one?.resolve(answer.value)
      else one?.reject(new Error(answer.failure))
    })
    begun.on('error', giveUp)
    return begun
  }
  const ask = (work: Asked): Promise<unknown> =>
    new Promise((resolve, reject) => {
      worker ??= begin()
      worker.ref()
      const id = ++asked
      waiting.set(id, { resolve, reject })
      worker.postMessage({ id, asked: work })
    })
  return {
    async trace(layers, options) {
      if (pointsOf(layers) < POINTS_TO_TRACE) return partPaths(layers, await polygonEngine(), options)
      return (await ask({ layers, options })) as ToolPaths[]
    },
    async solid(passes) {
      if (pointsOf(passes) >= POINTS_TO_STACK) return (await ask({ passes })) as Mesh | null
      return solidOfPasses(passes, await polygonEngine(), await solidEngine(), () => undefined)
    },
  }
}

function pointsOf(all: readonly { readonly region: Region }[]): number {
  let points = 0
  for (const { region } of all) points += region.xyMm.length / 2
  return points
}
