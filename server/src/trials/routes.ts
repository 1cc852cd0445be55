import { ReadingChange, ReadingInput, TrialInput } from '@tender/contract'
import type { Router } from 'express'
import { z } from 'zod'
import { addPhotoRoute } from '../blobs/photoRoutes'
import { idOf, revisionOf, shelfRoutes, type Ready } from '../storage/shelfRoutes'
import type { TrialShelf } from './repo'

const StepKey = z.string().min(1).max(60)

export function trialRoutes(
  trials: TrialShelf,
  ready: Ready,
  readByStandIns: (id: string) => Promise<unknown>,
): Router {
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
  router.post('/:id/stand-ins', async (req, res) => {
    // Even where it failed half-way, some of it is written.
    const read = await readByStandIns(idOf(req.params)).finally(changed)
    res.json(read)
  })
  addPhotoRoute(router, trials.addPhoto, changed)
  return router
}
