import { readFileSync } from 'node:fs'
import { parentPort, workerData } from 'node:worker_threads'
import { TenderError } from '@tender/core'
import { knowMesh } from './knowMesh'
import type { Told } from './knowMeshApart'

const moved: ArrayBuffer[] = []
let told: Told
try {
  const knowledge = knowMesh(readFileSync((workerData as { path: string }).path))
  for (const bytes of [knowledge.packed, knowledge.rough]) if (bytes) moved.push(bytes.buffer as ArrayBuffer)
  told = { knowledge }
} catch (error) {
  told =
    error instanceof TenderError
      ? { refusal: { code: error.code, message: error.message, detail: error.detail } }
      : { failure: String(error) }
}
parentPort!.postMessage(told, moved)
