import { MOST_PHOTO_BYTES } from '@tender/contract'
import { raw, Router } from 'express'
import { z } from 'zod'
import { idOf, type Ready } from '../storage/shelfRoutes'
import type { AnyPhotos } from './photos'
import { takePhoto, type TakenPhoto } from './takePhoto'

const KeyOf = z.string().min(1).max(60)

/** Takes in pictures of the things under a parent: PUT /:id/photos/:key/:photo. */
export function addPhotoRoute(
  router: Router,
  add: (id: string, key: string, photoId: string, photo: TakenPhoto) => Promise<unknown>,
  changed: () => void,
): void {
  router.put(
    '/:id/photos/:key/:photo',
    raw({ type: () => true, limit: MOST_PHOTO_BYTES }),
    async (req, res) => {
      const photoId = z.uuid().parse(req.params.photo)
      const bytes = Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0)
      const key = KeyOf.parse(req.params.key)
      const photo = await add(idOf(req.params), key, photoId, await takePhoto(bytes))
      changed()
      res.status(201).json(photo)
    },
  )
}

/** Pictures by themselves: they never change, so they may be kept by whoever asked. */
export function photoRoutes(photos: AnyPhotos, readies: readonly Ready[]): Router {
  const router = Router()
  const changed = () => readies.forEach(({ cache, table }) => cache.changed(table))
  router.get(
    '/:id',
    async (req, res) =>
      void res
        .type('image/jpeg')
        .set('Cache-Control', 'private, max-age=31536000, immutable')
        .send(await photos.bytes(idOf(req.params))),
  )
  router.delete('/:id', async (req, res) => {
    await photos.keep(idOf(req.params), false)
    changed()
    res.status(204).end()
  })
  router.post('/:id/restore', async (req, res) => {
    await photos.keep(idOf(req.params), true)
    changed()
    res.status(204).end()
  })
  return router
}
