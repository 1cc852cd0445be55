import type { FilamentInput, StoredFilament } from '@tender/contract'
import type { Family } from '@tender/core/bench'
import { and, asc, count, eq, ilike, inArray, isNull } from 'drizzle-orm'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { containing } from '../storage/search'
import { notFound, removeRoot, restoreRoot, saveRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { filament, spool } from './schema'

export function filamentShelf(db: Database): Shelf<FilamentInput, StoredFilament> {
  const withSpools = async (rows: (typeof filament.$inferSelect)[]): Promise<StoredFilament[]> => {
    if (rows.length === 0) return []
    const spools = await db.select().from(spool).where(inArray(spool.filamentId, rows.map((row) => row.id))).orderBy(asc(spool.position)) // prettier-ignore
    return rows.map((row) => {
      const { createdAt: _, deletedAt: __, ...fields } = row
      return {
        ...fields,
        ...storedOf(row),
        family: row.family as Family,
        spools: spools.filter((one) => one.filamentId === row.id).map(({ filamentId: _filament, position: _position, ...rest }) => rest),
      }
    })
  }
  const one = async (id: string) => {
    const [found] = await withSpools(await db.select().from(filament).where(eq(filament.id, id)))
    if (!found) throw notFound()
    return found
  }
  return {
    one,
    async list({ search, limit, offset }) {
      const where = and(isNull(filament.deletedAt), ilike(filament.name, containing(search)))
      const rows = await db.select().from(filament).where(where).orderBy(asc(filament.name)).limit(limit).offset(offset)
      const [{ total }] = await db.select({ total: count() }).from(filament).where(where)
      return { items: await withSpools(rows), total }
    },
    async save(id, revision, { spools, ...fields }) {
      await db.transaction(async (tx) => {
        const written = await saveRoot(tx, filament, id, revision, fields, () => one(id))
        if (!written) return
        await tx.delete(spool).where(eq(spool.filamentId, id))
        if (spools.length > 0) await tx.insert(spool).values(spools.map((entry, position) => ({ ...entry, filamentId: id, position })))
      })
      return one(id)
    },
    remove: (id) => removeRoot(db, filament, id),
    restore: (id) => restoreRoot(db, filament, id),
  }
}
