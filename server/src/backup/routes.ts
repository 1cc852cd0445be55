import { Router } from 'express'
import type { Pool } from 'pg'
import { withReceived } from '../parts/uploadedFile'
import type { ReadCache } from '../storage/readCache'
import { backUp } from './backUp'
import { TABLES } from './format'
import { restore } from './restore'

const MOST_BACKUP_BYTES = 32 * 1024 ** 3

/**
 * The whole workshop as one file: GET takes it along, POST brings one in, or only tells what that would do.
 */
export function backupRoutes(pool: Pool, cache: ReadCache): Router {
  const router = Router()
  router.get('/', async (_req, res) => {
    const day = new Date().toISOString().slice(0, 10)
    res.set({
      'Content-Type': 'application/gzip',
      'Content-Disposition': `attachment; filename="workshop-${day}.jsonl.gz"`,
      'Cache-Control': 'no-store',
    })
    await backUp(pool, res)
  })
  router.post('/', async (req, res) => {
    const trial = req.query.trial !== undefined
    const report = await withReceived(req, MOST_BACKUP_BYTES, (path) => restore(pool, path, trial))
    if (!trial) for (const { table } of TABLES) cache.changed(table)
    res.json(report)
  })
  return router
}
