import type { Printer, PrinterInput } from '@tender/contract'
import { and, asc, eq, ilike, isNull, sql } from 'drizzle-orm'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { pageOf, totalOver } from '../storage/pages'
import { mustBeSame, mustStand, removeRoot, restoreRoot, saveRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { printer } from './schema'

export function printerShelf(db: Database): Shelf<PrinterInput, Printer> {
  const oneQuery = db
    .select({ row: printer })
    .from(printer)
    .where(eq(printer.id, sql.placeholder('id')))
    .prepare('printer_one')
  const listQuery = db
    .select({ row: printer, total: totalOver })
    .from(printer)
    .where(and(isNull(printer.deletedAt), ilike(printer.name, sql.placeholder('search'))))
    .orderBy(asc(printer.name), asc(printer.id))
    .limit(sql.placeholder('limit'))
    .offset(sql.placeholder('offset'))
    .prepare('printer_list')
  const one = async (id: string) => {
    const [found] = await oneQuery.execute({ id })
    return toPrinter(mustStand(found?.row, found?.row.deletedAt))
  }
  return {
    one,
    list: (query) =>
      pageOf(
        query,
        (bounds) => listQuery.execute(bounds),
        ({ row }) => toPrinter(row),
      ),
    async save(id, revision, input) {
      const { bedMm, ...fields } = input
      const values = { ...fields, bedWidthMm: bedMm[0], bedDepthMm: bedMm[1] }
      const written = await saveRoot(db, printer, id, revision, values, () => one(id))
      return written ? toPrinter(written) : mustBeSame(input, await one(id))
    },
    remove: (id, revision) => removeRoot(db, printer, id, revision, () => one(id)),
    restore: (id) => restoreRoot(db, printer, id),
  }
}

function toPrinter(row: typeof printer.$inferSelect): Printer {
  const { bedWidthMm, bedDepthMm, createdAt: _, deletedAt: __, ...fields } = row
  return { ...fields, ...storedOf(row), bedMm: [bedWidthMm, bedDepthMm] }
}
