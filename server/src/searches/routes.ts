import { SearchInput } from '@tender/contract'
import { Router } from 'express'
import { idOf } from '../storage/shelfRoutes'
import type { SearchRepo } from './repo'

/** How often a listener is told how far a search is. */
const TELL_MS = 400

/** A part's searches: started and found again. */
export function partSearchRoutes(searches: SearchRepo): Router {
  const router = Router()
  router.post('/:id/searches', async (req, res) => void res.status(202).json(await searches.start(idOf(req.params), SearchInput.parse(req.body))))
  router.get('/:id/searches/newest', async (req, res) => void res.json(await searches.newestOf(idOf(req.params))))
  return router
}

/** One search: read, listened to, stopped. */
export function searchRoutes(searches: SearchRepo): Router {
  const router = Router()
  router.get('/:id', async (req, res) => void res.json(await searches.one(idOf(req.params))))
  router.delete('/:id', async (req, res) => {
    await searches.stop(idOf(req.params))
    res.status(204).end()
  })
  router.get('/:id/events', async (req, res) => {
    const id = idOf(req.params)
    let last = JSON.stringify(await searches.one(id))
    res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache, no-transform' })
    res.flushHeaders()
    res.write(`data: ${last}\n\n`)
    let gone = false
    req.on('close', () => (gone = true))
    while (!gone && (JSON.parse(last) as { state: string }).state === 'working') {
      await new Promise((resolve) => setTimeout(resolve, TELL_MS))
      const now = JSON.stringify(await searches.one(id))
      if (now !== last) res.write(`data: ${now}\n\n`)
      last = now
    }
    res.end()
  })
  return router
}
