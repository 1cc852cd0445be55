import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import { TenderError, type TenderErrorCode } from '@tender/core'
import type { MeshKnowledge } from './knowMesh'

/** What the thread answers. */
export type Told = { readonly knowledge: MeshKnowledge } | { readonly refusal: { readonly code: TenderErrorCode; readonly message: string } } | { readonly failure: string }

/** Reads a mesh file in a thread of its own, so that a large one holds up nobody else's requests. */
export function knowMeshApart(path: string): Promise<MeshKnowledge> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(fileURLToPath(new URL('./knowMeshThread.mjs', import.meta.url)), { workerData: { path } })
    worker.once('message', (told: Told) => {
      if ('knowledge' in told) resolve(told.knowledge)
      else if ('refusal' in told) reject(new TenderError(told.refusal.code, told.refusal.message))
      else reject(new Error(told.failure))
      void worker.terminate()
    })
    worker.once('error', reject)
  })
}
