import { KeptAbout, MOST_KEPT_BYTES } from '@tender/contract'
import { Router, text } from 'express'
import { z } from 'zod'
import { HttpProblem } from '../problem'
import type { KeptAnswers } from './repo'

/** A hash of what was asked. */
const KEY = /^[0-9a-f]{64}$/

const About = z.object({ about: KeptAbout.optional() })
const AboutSome = z.object({ about: z.preprocess((one) => [one].flat(), z.array(KeptAbout).max(10)) })

/** Answers that one browser offers to others, or that were worked out ahead. */
export function keptRoutes(kept: KeptAnswers): Router {
  const router = Router()
  router.param('key', (_req, _res, next, key: string) =>
    next(KEY.test(key) ? undefined : new HttpProblem('NOT_FOUND', 'There is nothing at this address.')),
  )
  router.get('/last', async (req, res) => {
    res.set('Cache-Control', 'no-store')
    res.json(await kept.last(AboutSome.parse(req.query).about))
  })
  router.get('/:key', async (req, res) => {
    const answer = await kept.answer(req.params.key, About.parse(req.query).about)
    res.set('Cache-Control', 'no-store')
    if (answer !== null) res.type('text/plain').send(answer)
    // Nothing is wrong when an answer is not kept yet.
    else res.status(204).end()
  })
  router.put('/:key', text({ limit: MOST_KEPT_BYTES }), async (req, res) => {
    if (typeof req.body !== 'string' || req.body === '')
      throw new HttpProblem('INVALID', 'An answer to keep is text.')
    await kept.keep(req.params.key, req.body, About.parse(req.query).about)
    res.status(204).end()
  })
  return router
}
