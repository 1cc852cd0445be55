import { MOST_KEPT_BYTES } from '@tender/contract'
import { desc, eq, inArray, sql } from 'drizzle-orm'
import { Router, text } from 'express'
import { HttpProblem } from '../problem'
import type { Database } from '../storage/database'
import { keptAnswer } from './schema'

/** So many answers are kept, those asked for last. */
const MOST_KEPT = 200
/** A hash of what was asked. */
const KEY = /^[0-9a-f]{64}$/

/**
 * Answers that took a browser long, for the next one that asks the same. None of them is anybody's work: they
 * can be made anew, and no backup holds them.
 */
export function keptRoutes(db: Database): Router {
  const router = Router()
  router.param('key', (_req, _res, next, key: string) =>
    next(KEY.test(key) ? undefined : new HttpProblem('NOT_FOUND', 'There is nothing at this address.')),
  )
  router.get('/:key', async (req, res) => {
    const [found] = await db
      .update(keptAnswer)
      .set({ askedAt: sql`now()` as never })
      .where(eq(keptAnswer.key, req.params.key))
      .returning({ answer: keptAnswer.answer })
    res.set('Cache-Control', 'no-store')
    if (found) res.type('text/plain').send(found.answer)
    // Nothing is wrong when an answer is not kept yet.
    else res.status(204).end()
  })
  router.put('/:key', text({ limit: MOST_KEPT_BYTES }), async (req, res) => {
    if (typeof req.body !== 'string' || req.body === '')
      throw new HttpProblem('INVALID', 'An answer to keep is text.')
    // The same question has the same answer, whoever worked it out.
    await db.insert(keptAnswer).values({ key: req.params.key, answer: req.body }).onConflictDoNothing()
    const oldest = db
      .select({ key: keptAnswer.key })
      .from(keptAnswer)
      .orderBy(desc(keptAnswer.askedAt), keptAnswer.key)
      .offset(MOST_KEPT)
    await db.delete(keptAnswer).where(inArray(keptAnswer.key, oldest))
    res.status(204).end()
  })
  return router
}
