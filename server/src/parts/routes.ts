import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { MOST_UPLOAD_BYTES, PartInput } from '@tender/contract'
import { Router, type Response } from 'express'
import { z } from 'zod'
import { idOf, shelfRoutes, type Ready } from '../storage/shelfRoutes'
import type { StoredBlob } from '../blobs/store'
import type { MeshStore } from './meshes'
import type { PartShelf } from './repo'
import { withUpload } from './uploadedFile'

const Upload = z.object({
  name: z.string().trim().min(1).max(80),
  fileName: z.string().trim().min(1).max(200),
  olderId: z.uuid().optional(),
})

const Sha256 = z.string().regex(/^[0-9a-f]{64}$/, 'It is sixty-four hexadecimal digits.')

export function partRoutes(parts: PartShelf, ready: Ready): Router {
  const router = Router()
  router.put('/:id/file', async (req, res) => {
    const { name, fileName, olderId } = Upload.parse(req.query)
    const id = idOf(req.params)
    const gone = new AbortController()
    res.on('close', () => gone.abort())
    const part = await withUpload(req, MOST_UPLOAD_BYTES, gone.signal, (file) =>
      parts.bringIn(id, name, fileName, file, olderId ?? null),
    )
    ready.cache.changed(ready.table)
    res.status(201).json(part)
  })
  router.use(shelfRoutes(parts, PartInput, ready))
  return router
}

/** Meshes by the content of their file: they never change, so they may be kept for good. */
export function meshRoutes(meshes: MeshStore): Router {
  const router = Router()
  const send = async (res: Response, { byteLength, chunks }: StoredBlob) => {
    res.set({
      'Content-Type': 'application/octet-stream',
      'Content-Length': String(byteLength),
      'Cache-Control': 'private, max-age=31536000, immutable',
    })
    await pipeline(Readable.from(chunks), res)
  }
  const sha256Of = ({ sha256 }: { sha256?: string }) => Sha256.parse(sha256)
  router.get('/:sha256', async (req, res) => send(res, await meshes.file(sha256Of(req.params))))
  router.get('/:sha256/packed', async (req, res) => send(res, await meshes.packed(sha256Of(req.params))))
  router.get('/:sha256/rough', async (req, res) => send(res, await meshes.rough(sha256Of(req.params))))
  return router
}
