import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import { TenderError, type TenderErrorCode } from '@tender/core'
import type { MeshKnowledge } from './knowMesh'

/** What the thread answers. */
export type Told =
  | { readonly knowledge: MeshKnowledge }
  | {
      readonly refusal: {
        readonly code: TenderErrorCode
        readonly message: string
        readonly detail: Readonly<Record<string, unknown>>
      }
    }
  | { readonly failure: string }

/** Files read at once; the others wait in line. */
const MOST_AT_ONCE = 2
/** An honest file of the size we take is read in seconds. */
const LONGEST_MS = 120_000
const MOST_HEAP_MB = 3000

let reading = 0
const line: (() => void)[] = []

/**
 * Reads a mesh file in a thread of its own, so that a large one holds up nobody else's requests; within
 * bounds of time, heap and number.
 * @param gone aborted when nobody waits for the answer any more
 * @throws TenderError as reading does; FILE_TOO_LARGE when it takes too long, STOPPED when nobody waits
 */
export async function knowMeshApart(path: string, gone?: AbortSignal): Promise<MeshKnowledge> {
  while (reading >= MOST_AT_ONCE) await new Promise<void>((resolve) => line.push(resolve))
  reading++
  try {
    return await readIn(path, gone)
  } finally {
    reading--
    line.shift()?.()
  }
}

function readIn(path: string, gone?: AbortSignal): Promise<MeshKnowledge> {
  return new Promise((resolve, reject) => {
    if (gone?.aborted) return reject(stopped())
    const worker = new Worker(fileURLToPath(new URL('./knowMeshThread.mjs', import.meta.url)), {
      workerData: { path },
      resourceLimits: { maxOldGenerationSizeMb: MOST_HEAP_MB },
    })
    const tooMuch = () =>
      new TenderError(
        'FILE_TOO_LARGE',
        'The file is more than this server can read in two minutes. Nothing was stored.',
      )
    const end = () => {
      clearTimeout(timer)
      gone?.removeEventListener('abort', leave)
      void worker.terminate()
    }
    const leave = () => {
      end()
      reject(stopped())
    }
    const timer = setTimeout(() => {
      end()
      reject(tooMuch())
    }, LONGEST_MS)
    gone?.addEventListener('abort', leave)
    worker.once('message', (told: Told) => {
      end()
      if ('knowledge' in told) resolve(told.knowledge)
      else if ('refusal' in told)
        reject(new TenderError(told.refusal.code, told.refusal.message, told.refusal.detail))
      else reject(new Error(told.failure))
    })
    worker.once('error', (error: NodeJS.ErrnoException) => {
      end()
      reject(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? tooMuch() : error)
    })
  })
}

const stopped = () => new TenderError('STOPPED', 'Nobody waits for this file any more. Nothing was stored.')
