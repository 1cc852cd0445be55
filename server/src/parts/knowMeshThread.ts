import { readFileSync } from 'node:fs'
import { parentPort, workerData } from 'node:worker_threads'
import { TenderError } from '@tender/core'
import { knowMesh } from './knowMesh'
import type { Told } from './knowMeshApart'

let told: Told
try {
  told = { knowledge: knowMesh(readFileSync((workerData as { path: string }).path)) }
} catch (error) {
  told = error instanceof TenderError ? { refusal: { code: error.code, message: error.message } } : { failure: String(error) }
}
parentPort!.postMessage(told)
