import type { Printer, PrinterInput } from '@tender/contract'
import { and, asc, count, eq, ilike, isNull } from 'drizzle-orm'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { containing } from '../storage/search'
import { notFound, removeRoot, restoreRoot, saveRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { printer } from './schema'

export function printerShelf(db: Database): Shelf<PrinterInput, Printer> {
  const one = async (id: string) => {
    const [row] = await db.select().from(printer).where(eq(printer.id, id))
    if (!row) throw notFound()
    return toPrinter(row)
  }
  return {
    one,
    async list({ search, limit, offset }) {
      const where = and(isNull(printer.deletedAt), ilike(printer.name, containing(search)))
      const rows = await db.select().from(printer).where(where).orderBy(asc(printer.name)).limit(limit).offset(offset)
      const [{ total }] = await db.select({ total: count() }).from(printer).where(where)
      return { items: rows.map(toPrinter), total }
    },
    async save(id, revision, { bedMm, ...fields }) {
      await saveRoot(db, printer, id, revision, { ...fields, bedWidthMm: bedMm[0], bedDepthMm: bedMm[1] }, () => one(id))
      return one(id)
    },
    remove: (id) => removeRoot(db, printer, id),
    restore: (id) => restoreRoot(db, printer, id),
  }
}

function toPrinter(row: typeof printer.$inferSelect): Printer {
  const { bedWidthMm, bedDepthMm, createdAt: _, deletedAt: __, ...fields } = row
  return { ...fields, ...storedOf(row), bedMm: [bedWidthMm, bedDepthMm] }
}
