import { MOST_PHOTO_BYTES, ReadingChange, ReadingInput, TrialInput } from '@tender/contract'
import { raw, Router } from 'express'
import { z } from 'zod'
import { idOf, revisionOf, shelfRoutes, type Ready } from '../storage/shelfRoutes'
import type { TrialShelf } from './repo'
import { takePhoto } from './takePhoto'

const StepKey = z.string().min(1).max(60)

export function trialRoutes(trials: TrialShelf, ready: Ready): Router {
  const router = shelfRoutes(trials, TrialInput, ready)
  const changed = () => ready.cache.changed(ready.table)
  router.patch('/:id/readings/:step', async (req, res) => {
    const step = StepKey.parse(req.params.step)
    const reading = await trials.changeReading(idOf(req.params), step, ReadingChange.parse(req.body))
    changed()
    res.json(reading)
  })
  router.put('/:id/readings/:step', async (req, res) => {
    const step = StepKey.parse(req.params.step)
    const input = ReadingInput.parse(req.body)
    const reading = await trials.writeReading(idOf(req.params), step, revisionOf(req.query), input)
    changed()
    res.json(reading)
  })
  router.put(
    '/:id/photos/:step/:photo',
    raw({ type: () => true, limit: MOST_PHOTO_BYTES }),
    async (req, res) => {
      const photoId = z.uuid().parse(req.params.photo)
      const bytes = Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0)
      const step = StepKey.parse(req.params.step)
      const photo = await trials.addPhoto(idOf(req.params), step, photoId, await takePhoto(bytes))
      changed()
      res.status(201).json(photo)
    },
  )
  return router
}

/** Pictures by themselves: they never change, so they may be kept by whoever asked. */
export function photoRoutes(trials: TrialShelf, { cache, table }: Ready): Router {
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
    cache.changed(table)
    res.status(204).end()
  })
  router.post('/:id/restore', async (req, res) => {
    await trials.restorePhoto(idOf(req.params))
    cache.changed(table)
    res.status(204).end()
  })
  return router
}
