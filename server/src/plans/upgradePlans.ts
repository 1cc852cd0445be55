import { upgradeDocument } from '@tender/core/decide'
import { eq, sql, type AnyColumn } from 'drizzle-orm'
import { filament } from '../filaments/schema'
import { printer } from '../printers/schema'
import type { Database } from '../storage/database'
import { plan } from './schema'

/** Plans taken into memory at a time. */
const BATCH = 50

/**
 * Writes plans of version 1 anew as version 2, all or none: filaments and printers that they named are known
 * by their identity on the bench from then on. What is on the bench no more goes by its name.
 */
export async function upgradePlans(db: Database): Promise<void> {
  const isOld = sql`${plan.document} ->> 'version' = '1'`
  await db.transaction(async (tx) => {
    const bench = {
      filament: await idsByName(
        tx
          .select({ id: filament.id, name: filament.name })
          .from(filament)
          .orderBy(liveLast(filament.deletedAt)),
      ),
      printer: await idsByName(
        tx.select({ id: printer.id, name: printer.name }).from(printer).orderBy(liveLast(printer.deletedAt)),
      ),
    }
    for (;;) {
      const rows = await tx
        .select({ id: plan.id, document: plan.document })
        .from(plan)
        .where(isOld)
        .limit(BATCH)
        .for('update')
      if (rows.length === 0) return
      for (const { id, document } of rows) {
        const upgraded = upgradeDocument(document, (kind, name) => bench[kind].get(name))
        // Neither revision nor day change: the maker did nothing.
        await tx
          .update(plan)
          .set({ document: upgraded as typeof document, updatedAt: sql`${plan.updatedAt}` })
          .where(eq(plan.id, id))
      }
    }
  })
}

/** Of two with one name, the one that stands on the bench counts. */
const liveLast = (deletedAt: AnyColumn) => sql`${deletedAt} asc nulls last`

async function idsByName(rows: PromiseLike<readonly { id: string; name: string }[]>) {
  return new Map((await rows).map(({ id, name }) => [name, id]))
}
