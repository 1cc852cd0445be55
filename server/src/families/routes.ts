import { ClingInput, FamilyInput, FamilyName } from '@tender/contract'
import { Router } from 'express'
import { z } from 'zod'
import type { FamilyRepo } from './repo'

const Revision = z.coerce.number().int().min(0)

export function familyRoutes(families: FamilyRepo): Router {
  const router = Router()
  router.get('/', async (_req, res) => void res.json(await families.table()))
  router.put(
    '/:name',
    async (req, res) =>
      void res.json(
        await families.change(
          FamilyName.parse(req.params.name),
          Revision.parse(req.query.revision),
          FamilyInput.parse(req.body),
        ),
      ),
  )
  router.delete('/:name', async (req, res) => {
    await families.reset(FamilyName.parse(req.params.name))
    res.status(204).end()
  })
  router.put(
    '/cling/:a/:b',
    async (req, res) =>
      void res.json(
        await families.changeCling(
          FamilyName.parse(req.params.a),
          FamilyName.parse(req.params.b),
          Revision.parse(req.query.revision),
          ClingInput.parse(req.body),
        ),
      ),
  )
  router.delete('/cling/:a/:b', async (req, res) => {
    await families.resetCling(FamilyName.parse(req.params.a), FamilyName.parse(req.params.b))
    res.status(204).end()
  })
  return router
}
