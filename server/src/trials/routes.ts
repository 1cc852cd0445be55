import { MOST_PHOTO_BYTES, ReadingInput, TrialInput } from '@tender/contract'
import { raw, Router } from 'express'
import { z } from 'zod'
import { idOf, shelfRoutes } from '../storage/shelfRoutes'
import type { TrialShelf } from './repo'
import { takePhoto } from './takePhoto'

const StepKey = z.string().min(1).max(60)

export function trialRoutes(trials: TrialShelf): Router {
  const router = shelfRoutes(trials, TrialInput)
  router.put('/:id/readings/:step', async (req, res) => void res.json(await trials.read(idOf(req.params), StepKey.parse(req.params.step), ReadingInput.parse(req.body))))
  router.put('/:id/photos/:step/:photo', raw({ type: () => true, limit: MOST_PHOTO_BYTES }), async (req, res) => {
    const photoId = z.uuid().parse(req.params.photo)
    const bytes = Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0)
    res.status(201).json(await trials.addPhoto(idOf(req.params), StepKey.parse(req.params.step), photoId, await takePhoto(bytes)))
  })
  return router
}

/** Pictures by themselves: they never change, so they may be kept by whoever asked. */
export function photoRoutes(trials: TrialShelf): Router {
  const router = Router()
  router.get(
    '/:id',
    async (req, res) =>
      void res
        .type('image/jpeg')
        .set('Cache-Control', 'private, max-age=31536000, immutable')
        .send(await trials.photo(idOf(req.params))),
  )
  router.delete('/:id', async (req, res) => {
    await trials.removePhoto(idOf(req.params))
    res.status(204).end()
  })
  router.post('/:id/restore', async (req, res) => {
    await trials.restorePhoto(idOf(req.params))
    res.status(204).end()
  })
  return router
}
