import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { MOST_UPLOAD_BYTES, PartInput } from '@tender/contract'
import { raw, Router } from 'express'
import { z } from 'zod'
import { idOf, shelfRoutes } from '../storage/shelfRoutes'
import type { PartShelf } from './repo'

const Upload = z.object({ name: z.string().trim().min(1).max(80), fileName: z.string().trim().min(1).max(200) })

export function partRoutes(parts: PartShelf): Router {
  const router = Router()
  router.put('/:id/file', raw({ type: () => true, limit: MOST_UPLOAD_BYTES }), async (req, res) => {
    const { name, fileName } = Upload.parse(req.query)
    // A request without a body is left as it is by the body reader; to a maker it is an empty file.
    const bytes = Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0)
    res.status(201).json(await parts.bringIn(idOf(req.params), name, fileName, bytes))
  })
  router.use(shelfRoutes(parts, PartInput))
  return router
}

/** Mesh files by content: they never change, so they may be kept for good. */
export function meshRoutes(parts: PartShelf): Router {
  const router = Router()
  router.get('/:sha256', async (req, res) => {
    const { byteLength, chunks } = await parts.meshBytes(z.string().regex(/^[0-9a-f]{64}$/).parse(req.params.sha256)) // prettier-ignore
    res.set({ 'Content-Type': 'application/octet-stream', 'Content-Length': String(byteLength), 'Cache-Control': 'private, max-age=31536000, immutable' })
    await pipeline(Readable.from(chunks), res)
  })
  return router
}
