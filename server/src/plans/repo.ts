import { PlanDocumentFields, type Plan, type PlanFigures, type PlanInput } from '@tender/contract'
import { eq, sql } from 'drizzle-orm'
import { part } from '../parts/schema'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { amongIds, pagesOf } from '../storage/pages'
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
  const rowsQuery = db
    .select({ row: plan, partName: part.name })
    .from(plan)
    .innerJoin(part, eq(part.id, plan.partId))
    .where(amongIds(plan.id))
    .prepare('plan_rows')
  const figure = (name: keyof PlanFigures) => [
    sql`(${plan.figures} ->> ${sql.raw(`'${name}'`)})::float`,
    plan.name,
  ]
  const list = pagesOf(
    db,
    {
      table: plan,
      joined: { table: part, on: eq(part.id, plan.partId) },
      searched: [sql`${plan.name} || ', ' || ${part.name}`],
      orders: {
        // What was made in one go, as the demo is, goes by name.
        part: [part.name, plan.createdAt, plan.name],
        name: [plan.name],
        touched: [plan.updatedAt, plan.name],
        mass: figure('massG'),
        waste: figure('wasteG'),
        cost: figure('cost'),
        time: figure('timeS'),
        swaps: figure('swaps'),
        clean: figure('pTender'),
      },
      narrowed: { part: (id) => eq(plan.partId, id) },
    },
    (ids) => rowsQuery.execute({ ids }),
    toPlan,
  )
  const one = async (id: string) => {
    const [found] = await oneQuery.execute({ id })
    return toPlan(mustStand(found, found?.row.deletedAt))
  }
  return {
    one,
    list,
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
