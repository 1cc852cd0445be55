import { RunInput, STAND_IN_FAULTS, type StandIns } from '@tender/contract'
import { Router, type RequestHandler } from 'express'
import { z } from 'zod'
import { idOf } from '../storage/shelfRoutes'
import type { PrintRuns } from './runs'
import type { DeviceAddresses } from './standIns'

const Asked = z.union([z.strictObject({ takeOff: z.uuid() }), z.strictObject({ trial: z.uuid() })])
const Action = z.enum(['pause', 'resume', 'give-up'])
const FailOrder = z.strictObject({ fault: z.enum(STAND_IN_FAULTS) })

/** Prints under way. A new one is POSTed as its file, with what is asked for in the header `tender-run`. */
export function printRunRoutes(runs: PrintRuns, json: RequestHandler): Router {
  const router = Router()
  router.get('/', async (req, res) => res.json(await runs.list(Asked.parse(req.query))))
  router.get('/:id', async (req, res) => res.json(await runs.one(idOf(req.params))))
  router.post('/', async (req, res) => {
    const input = RunInput.parse(headerJson(req.get('tender-run') ?? ''))
    res.status(201).json(await runs.start(input, req))
  })
  router.post('/:id/fault', json, async (req, res) => {
    res.json(await runs.fail(idOf(req.params), FailOrder.parse(req.body).fault))
  })
  router.post('/:id/:action', async (req, res) => {
    res.json(await runs.act(idOf(req.params), Action.parse(req.params.action)))
  })
  return router
}

/** Headers are no place for letters beyond ASCII: they come as an encoded JSON. */
function headerJson(text: string): unknown {
  try {
    return JSON.parse(decodeURIComponent(text))
  } catch {
    return null
  }
}

export function standInRoutes(standIns: DeviceAddresses): Router {
  const router = Router()
  router.get('/', (_req, res) => {
    const there: StandIns = {
      printer: standIns.printer !== undefined,
      look: standIns.look !== undefined,
      gauge: standIns.gauge !== undefined,
      scale: standIns.scale !== undefined,
    }
    res.json(there)
  })
  return router
}
