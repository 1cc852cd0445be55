import { WorkshopInput, type Workshop } from '@tender/contract'
import { and, eq, sql } from 'drizzle-orm'
import { Router } from 'express'
import type { Database } from '../storage/database'
import { stale } from '../storage/shelf'
import { revisionOf } from '../storage/shelfRoutes'
import { workshop } from './schema'

/** The one row's name. */
const OWN = 'own'

/** What holds for the workshop as a whole: read, and changed from the revision that was seen. */
export function workshopRoutes(db: Database): Router {
  const router = Router()
  const read = async (): Promise<Workshop> => {
    const [row] = await db.select().from(workshop).where(eq(workshop.name, OWN))
    return row ? { ...row.chosen, revision: row.revision } : { currency: null, revision: 0 }
  }
  router.get('/', async (_req, res) => void res.json(await read()))
  router.put('/', async (req, res) => {
    const chosen = WorkshopInput.parse(req.body)
    const seen = revisionOf(req.query) ?? 0
    const written = await (seen === 0
      ? db.insert(workshop).values({ name: OWN, chosen }).onConflictDoNothing().returning()
      : db
          .update(workshop)
          .set({ chosen, revision: sql`${workshop.revision} + 1` as never })
          .where(and(eq(workshop.name, OWN), eq(workshop.revision, seen)))
          .returning())
    if (written.length === 0) throw stale(await read())
    res.json(await read())
  })
  return router
}
