import type { Printer, PrinterInput } from '@tender/contract'
import { eq, sql } from 'drizzle-orm'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { amongIds, pagesOf } from '../storage/pages'
import { mustBeSame, mustStand, removeRoot, restoreRoot, saveRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { printer } from './schema'

export function printerShelf(db: Database): Shelf<PrinterInput, Printer> {
  const oneQuery = db
    .select({ row: printer })
    .from(printer)
    .where(eq(printer.id, sql.placeholder('id')))
    .prepare('printer_one')
  const rowsQuery = db.select().from(printer).where(amongIds(printer.id)).prepare('printer_rows')
  const list = pagesOf(
    db,
    { table: printer, searched: [printer.name], orders: { name: [printer.name] } },
    (ids) => rowsQuery.execute({ ids }),
    toPrinter,
  )
  const one = async (id: string) => {
    const [found] = await oneQuery.execute({ id })
    return toPrinter(mustStand(found?.row, found?.row.deletedAt))
  }
  return {
    one,
    list,
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
