import { PlanDocumentFields, type Plan, type PlanInput } from '@tender/contract'
import { and, asc, count, eq, ilike, isNull } from 'drizzle-orm'
import { part } from '../parts/schema'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { containing } from '../storage/search'
import { notFound, removeRoot, restoreRoot, saveRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { plan } from './schema'

export function planShelf(db: Database): Shelf<PlanInput, Plan> {
  const rowsWhere = (where: ReturnType<typeof and>) =>
    db.select({ row: plan, partName: part.name }).from(plan).innerJoin(part, eq(part.id, plan.partId)).where(where).orderBy(asc(part.name), asc(plan.createdAt))
  const one = async (id: string) => {
    const [found] = await rowsWhere(eq(plan.id, id))
    if (!found) throw notFound()
    return toPlan(found)
  }
  return {
    one,
    async list({ search, limit, offset }) {
      const where = and(isNull(plan.deletedAt), isNull(part.deletedAt), ilike(plan.name, containing(search)))
      const rows = await rowsWhere(where).limit(limit).offset(offset)
      const [{ total }] = await db.select({ total: count() }).from(plan).innerJoin(part, eq(part.id, plan.partId)).where(where)
      return { items: rows.map(toPlan), total }
    },
    async save(id, revision, input) {
      await saveRoot(db, plan, id, revision, { name: input.document.name, ...input }, () => one(id))
      return one(id)
    },
    remove: (id) => removeRoot(db, plan, id),
    restore: (id) => restoreRoot(db, plan, id),
  }
}

function toPlan({ row, partName }: { row: typeof plan.$inferSelect; partName: string }): Plan {
  // Checked on the way out too: a document from an older version must not reach a planner that expects more.
  return { ...storedOf(row), partId: row.partId, partName, document: PlanDocumentFields.parse(row.document), figures: row.figures }
}
