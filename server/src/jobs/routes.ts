import { Router } from 'express'
import type { z } from 'zod'
import { idOf } from '../storage/shelfRoutes'
import type { JobKind } from './kind'
import type { JobRepo, JobState } from './repo'

/** How often a listener is told how far a job is. */
const TELL_MS = 400

/** Jobs of a part: started (POST) and the newest found again (GET newest). */
export function partJobRoutes<I, W, R>(
  jobs: JobRepo,
  kind: JobKind<I, W, R>,
  input: z.ZodType<I>,
  told: (state: JobState<I, W, R>) => unknown,
  onJob: () => void = () => {},
): Router {
  const router = Router({ mergeParams: true })
  router.post('/', async (req, res) => {
    const started = await jobs.start(kind, idOf(req.params), input.parse(req.body))
    onJob()
    res.status(202).json(told(started))
  })
  router.get('/newest', async (req, res) => {
    const newest = await jobs.newestOf(kind, idOf(req.params))
    res.json(newest && told(newest))
  })
  return router
}

/** One job: read, listened to by server-sent events, stopped. */
export function jobRoutes<I, W, R>(
  jobs: JobRepo,
  kind: JobKind<I, W, R>,
  told: (state: JobState<I, W, R>) => unknown,
): Router {
  const router = Router()
  const now = async (id: string) => {
    const state = await jobs.one(kind, id)
    return { working: state.state === 'working', text: JSON.stringify(told(state)) }
  }
  router.get('/:id', async (req, res) => void res.json(told(await jobs.one(kind, idOf(req.params)))))
  router.delete('/:id', async (req, res) => {
    await jobs.stop(kind, idOf(req.params))
    res.status(204).end()
  })
  router.get('/:id/events', async (req, res) => {
    const id = idOf(req.params)
    let last = await now(id)
    res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache, no-transform' })
    res.flushHeaders()
    res.write(`data: ${last.text}\n\n`)
    let gone = false
    req.on('close', () => (gone = true))
    while (!gone && last.working) {
      await new Promise((resolve) => setTimeout(resolve, TELL_MS))
      const next = await now(id)
      if (next.text !== last.text) res.write(`data: ${next.text}\n\n`)
      last = next
    }
    res.end()
  })
  return router
}
