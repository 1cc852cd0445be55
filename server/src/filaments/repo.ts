import type { FilamentInput, SpoolFields, StoredFilament } from '@tender/contract'
import type { Family } from '@tender/core/bench'
import { isDeepStrictEqual } from 'node:util'
import { eq, sql } from 'drizzle-orm'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { amongIds, pagesOf } from '../storage/pages'
import { jsonRows } from '../storage/jsonRows'
import { mustBeSame, mustStand, removeRoot, restoreRoot, saveRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { filament, spool } from './schema'

/** A filament's spools in their order, in the same answer as itself. */
const spoolsOfIt = jsonRows<SpoolFields>(
  {
    id: spool.id,
    label: spool.label,
    lot: spool.lot,
    gramsLeft: spool.gramsLeft,
    emptyG: spool.emptyG,
    pricePerKg: spool.pricePerKg,
    colour: spool.colour,
    openedOn: spool.openedOn,
    driedOn: spool.driedOn,
    damp: spool.damp,
  },
  sql`from ${spool} where ${spool.filamentId} = ${filament.id}`,
  sql`${spool.position}`,
).as('spools')

type Row = { row: typeof filament.$inferSelect; spools: SpoolFields[] }

export function filamentShelf(db: Database): Shelf<FilamentInput, StoredFilament> {
  const oneQuery = prepareOne(db)
  const rowsQuery = db
    .select({ row: filament, spools: spoolsOfIt })
    .from(filament)
    .where(amongIds(filament.id))
    .prepare('filament_rows')
  const list = pagesOf(
    db,
    {
      table: filament,
      searched: [filament.name],
      orders: {
        name: [filament.name],
        family: [filament.family, filament.name],
        left: [
          sql`(select sum(${spool.gramsLeft}) from ${spool} where ${spool.filamentId} = ${filament.id})`,
          filament.name,
        ],
        price: [filament.pricePerKg, filament.name],
        heat: [filament.nozzleC, filament.bedC, filament.name],
      },
    },
    (ids) => rowsQuery.execute({ ids }),
    toFilament,
  )
  const one = async (id: string, query = oneQuery) => {
    const [found] = await query.execute({ id })
    return toFilament(mustStand(found, found?.row.deletedAt))
  }
  return {
    one,
    list,
    async save(id, revision, input) {
      const { spools, ...fields } = input
      const before = revision === null ? null : await one(id)
      // Any change of the spools is a revision of the filament: as long as that is the one seen here, so are
      // they.
      if (before !== null && isDeepStrictEqual(before.spools, spools))
        return toFilament({
          row: (await saveRoot(db, filament, id, revision, fields, () => one(id)))!,
          spools,
        })
      return db.transaction(async (tx) => {
        const current = () => one(id, prepareOne(tx))
        const written = await saveRoot(tx, filament, id, revision, fields, current)
        if (!written) return mustBeSame(input, await current())
        await tx.delete(spool).where(eq(spool.filamentId, id))
        if (spools.length > 0)
          await tx
            .insert(spool)
            .values(spools.map((entry, position) => ({ ...entry, filamentId: id, position })))
        return toFilament({ row: written, spools })
      })
    },
    remove: (id, revision) => removeRoot(db, filament, id, revision, () => one(id)),
    restore: (id) => restoreRoot(db, filament, id),
  }
}

const prepareOne = (db: Database) =>
  db
    .select({ row: filament, spools: spoolsOfIt })
    .from(filament)
    .where(eq(filament.id, sql.placeholder('id')))
    .prepare('filament_one')

function toFilament({ row, spools }: Row): StoredFilament {
  const { createdAt: _, deletedAt: __, ...fields } = row
  return { ...fields, ...storedOf(row), family: row.family as Family, spools }
}
