import { PlanDocumentFields, type Plan, type PlanInput } from '@tender/contract'
import { and, asc, eq, ilike, isNull, sql } from 'drizzle-orm'
import { part } from '../parts/schema'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { pageOf, totalOver } from '../storage/pages'
import { mustBeSame, mustStand, removeRoot, restoreRoot, saveRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { plan } from './schema'

export function planShelf(db: Database): Shelf<PlanInput, Plan> {
  const oneQuery = db
    .select({ row: plan, partName: part.name })
    .from(plan)
    .innerJoin(part, eq(part.id, plan.partId))
    .where(eq(plan.id, sql.placeholder('id')))
    .prepare('plan_one')
  const listQuery = db
    .select({ row: plan, partName: part.name, total: totalOver })
    .from(plan)
    .innerJoin(part, eq(part.id, plan.partId))
    .where(and(isNull(plan.deletedAt), isNull(part.deletedAt), ilike(plan.name, sql.placeholder('search'))))
    .orderBy(asc(part.name), asc(plan.createdAt), asc(plan.id))
    .limit(sql.placeholder('limit'))
    .offset(sql.placeholder('offset'))
    .prepare('plan_list')
  const one = async (id: string) => {
    const [found] = await oneQuery.execute({ id })
    return toPlan(mustStand(found, found?.row.deletedAt))
  }
  return {
    one,
    list: (query) => pageOf(query, (bounds) => listQuery.execute(bounds), toPlan),
    async save(id, revision, input) {
      const values = { name: input.document.name, ...input }
      const row = await saveRoot(db, plan, id, revision, values, () => one(id))
      if (!row) return mustBeSame(input, await one(id))
      const [{ partName }] = await db
        .select({ partName: part.name })
        .from(part)
        .where(eq(part.id, row.partId))
      return toPlan({ row, partName })
    },
    remove: (id, revision) => removeRoot(db, plan, id, revision, () => one(id)),
    restore: (id) => restoreRoot(db, plan, id),
  }
}

function toPlan({ row, partName }: { row: typeof plan.$inferSelect; partName: string }): Plan {
  // Checked on the way out too: a document from an older version must not reach a planner that expects more.
  return {
    ...storedOf(row),
    partId: row.partId,
    partName,
    document: PlanDocumentFields.parse(row.document),
    figures: row.figures,
  }
}
