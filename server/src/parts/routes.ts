import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { MOST_UPLOAD_BYTES, PartInput } from '@tender/contract'
import { Router, type Response } from 'express'
import { z } from 'zod'
import { idOf, shelfRoutes } from '../storage/shelfRoutes'
import type { PartShelf, StoredMesh } from './repo'
import { withUpload } from './uploadedFile'

const Upload = z.object({ name: z.string().trim().min(1).max(80), fileName: z.string().trim().min(1).max(200), olderId: z.uuid().optional() })

export function partRoutes(parts: PartShelf): Router {
  const router = Router()
  router.put('/:id/file', async (req, res) => {
    const { name, fileName, olderId } = Upload.parse(req.query)
    const id = idOf(req.params)
    res.status(201).json(await withUpload(req, MOST_UPLOAD_BYTES, (file) => parts.bringIn(id, name, fileName, file, olderId ?? null)))
  })
  router.use(shelfRoutes(parts, PartInput))
  return router
}

/** Mesh files by content: they never change, so they may be kept for good. */
export function meshRoutes(parts: PartShelf): Router {
  const router = Router()
  const send = async (res: Response, { byteLength, chunks }: StoredMesh) => {
    res.set({ 'Content-Type': 'application/octet-stream', 'Content-Length': String(byteLength), 'Cache-Control': 'private, max-age=31536000, immutable' })
    await pipeline(Readable.from(chunks), res)
  }
  const sha256Of = ({ sha256 }: { sha256?: string }) => z.string().regex(/^[0-9a-f]{64}$/).parse(sha256) // prettier-ignore
  router.get('/:sha256', async (req, res) => send(res, await parts.meshBytes(sha256Of(req.params))))
  router.get('/:sha256/rough', async (req, res) => send(res, await parts.roughBytes(sha256Of(req.params))))
  return router
}
