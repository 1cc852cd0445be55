import { and, isNotNull, lt, notExists, or, eq, sql } from 'drizzle-orm'
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core'
import { blob } from '../blobs/schema'
import { filament } from '../filaments/schema'
import { mesh, part } from '../parts/schema'
import { plan } from '../plans/schema'
import { printer } from '../printers/schema'
import { takeOff, takeOffPhoto } from '../takeOffs/schema'
import { stepPhoto, trial } from '../trials/schema'
import type { Database } from './database'
import type { RootTable } from './shelf'

/** Removed things can be brought back for this long. */
export const KEPT_DAYS = 30

/**
 * Takes away for good what was removed long ago and what nothing refers to any more, meshes and pictures
 * among it.
 * @returns rows that went, by what they were
 */
export async function purge(db: Database, keptDays = KEPT_DAYS): Promise<Readonly<Record<string, number>>> {
  const long = (deletedAt: RootTable['deletedAt']) =>
    and(isNotNull(deletedAt), lt(deletedAt, sql`now() - make_interval(days => ${keptDays})`))
  return db.transaction(async (tx) => {
    const count = async (deletion: Promise<unknown[]>) => (await deletion).length
    // What refers goes before what is referred to.
    const pictures =
      (await count(tx.delete(stepPhoto).where(long(stepPhoto.deletedAt)).returning({ id: stepPhoto.id }))) +
      (await count(
        tx.delete(takeOffPhoto).where(long(takeOffPhoto.deletedAt)).returning({ id: takeOffPhoto.id }),
      ))
    const takeOffs = await count(
      tx.delete(takeOff).where(long(takeOff.deletedAt)).returning({ id: takeOff.id }),
    )
    const plans = await count(tx.delete(plan).where(long(plan.deletedAt)).returning({ id: plan.id }))
    const trials = await count(tx.delete(trial).where(long(trial.deletedAt)).returning({ id: trial.id }))
    const parts = await count(
      tx
        .delete(part)
        .where(
          and(
            long(part.deletedAt),
            notExists(tx.select().from(plan).where(eq(plan.partId, part.id))),
            notExists(tx.select().from(takeOff).where(eq(takeOff.partId, part.id))),
          ),
        )
        .returning({ id: part.id }),
    )
    const meshes = await count(
      tx
        .delete(mesh)
        .where(notExists(tx.select().from(part).where(eq(part.meshSha256, mesh.sha256))))
        .returning({ id: mesh.sha256 }),
    )
    const isFreeOf = (column: PgColumn, table: PgTable) =>
      notExists(tx.select().from(table).where(eq(column, blob.sha256)))
    const blobs = await count(
      tx
        .delete(blob)
        .where(
          and(
            isFreeOf(mesh.sha256, mesh),
            isFreeOf(mesh.packedSha256, mesh),
            isFreeOf(mesh.roughSha256, mesh),
            isFreeOf(stepPhoto.sha256, stepPhoto),
            isFreeOf(takeOffPhoto.sha256, takeOffPhoto),
          ),
        )
        .returning({ id: blob.sha256 }),
    )
    const filaments = await count(
      tx
        .delete(filament)
        .where(
          and(
            long(filament.deletedAt),
            notExists(
              tx
                .select()
                .from(trial)
                .where(or(eq(trial.partFilamentId, filament.id), eq(trial.supportFilamentId, filament.id))),
            ),
          ),
        )
        .returning({ id: filament.id }),
    )
    const printers = await count(
      tx
        .delete(printer)
        .where(
          and(
            long(printer.deletedAt),
            notExists(tx.select().from(trial).where(eq(trial.printerId, printer.id))),
          ),
        )
        .returning({ id: printer.id }),
    )
    return { pictures, takeOffs, plans, trials, parts, meshes, blobs, filaments, printers }
  })
}
