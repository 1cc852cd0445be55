import { ReadingInput, TrialInput } from '@tender/contract'
import type { Router } from 'express'
import { z } from 'zod'
import { idOf, shelfRoutes } from '../storage/shelfRoutes'
import type { TrialShelf } from './repo'

const StepKey = z.string().min(1).max(60)

export function trialRoutes(trials: TrialShelf): Router {
  const router = shelfRoutes(trials, TrialInput)
  router.put('/:id/readings/:step', async (req, res) => void res.json(await trials.read(idOf(req.params), StepKey.parse(req.params.step), ReadingInput.parse(req.body))))
  return router
}
