import type { ReadingInput, StepReading, Trial, TrialInput } from '@tender/contract'
import { stepsOf, type Grade } from '@tender/core/trial'
import { and, asc, count, desc, eq, ilike, inArray, isNull, sql } from 'drizzle-orm'
import { alias } from 'drizzle-orm/pg-core'
import { filament } from '../filaments/schema'
import { printer } from '../printers/schema'
import { HttpProblem } from '../problem'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { containing } from '../storage/search'
import { notFound, removeRoot, restoreRoot, saveRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { stepReading, trial } from './schema'

export type TrialShelf = Shelf<TrialInput, Trial> & {
  /** Writes down what was seen on one step; the same reading sent twice is one reading. */
  read(id: string, step: string, reading: ReadingInput): Promise<StepReading>
}

export function trialShelf(db: Database): TrialShelf {
  const partFilament = alias(filament, 'part_filament')
  const supportFilament = alias(filament, 'support_filament')
  const rowsWhere = (where: ReturnType<typeof and>) =>
    db
      .select({ row: trial, printerName: printer.name, partFilamentName: partFilament.name, supportFilamentName: supportFilament.name })
      .from(trial)
      .innerJoin(printer, eq(printer.id, trial.printerId))
      .innerJoin(partFilament, eq(partFilament.id, trial.partFilamentId))
      .innerJoin(supportFilament, eq(supportFilament.id, trial.supportFilamentId))
      .where(where)
      .orderBy(desc(trial.printedOn), asc(trial.name))
  type Row = Awaited<ReturnType<typeof rowsWhere>>[number]

  const withReadings = async (rows: Row[]): Promise<Trial[]> => {
    if (rows.length === 0) return []
    const readings = await db.select().from(stepReading).where(inArray(stepReading.trialId, rows.map(({ row }) => row.id))) // prettier-ignore
    return rows.map(({ row, ...names }) => {
      const { createdAt: _, deletedAt: __, ...fields } = row
      return { ...fields, ...storedOf(row), ...names, readings: readings.filter((one) => one.trialId === row.id).map(toReading) }
    })
  }
  const one = async (id: string) => {
    const [found] = await withReadings(await rowsWhere(eq(trial.id, id)))
    if (!found) throw notFound()
    return found
  }
  return {
    one,
    async list({ search, limit, offset }) {
      const where = and(isNull(trial.deletedAt), ilike(trial.name, containing(search)))
      const rows = await rowsWhere(where).limit(limit).offset(offset)
      const [{ total }] = await db.select({ total: count() }).from(trial).where(where)
      return { items: await withReadings(rows), total }
    },
    async save(id, revision, input) {
      await saveRoot(db, trial, id, revision, input, () => one(id))
      return one(id)
    },
    remove: (id) => removeRoot(db, trial, id),
    restore: (id) => restoreRoot(db, trial, id),
    async read(id, step, reading) {
      const { coupon } = await one(id)
      if (!stepsOf(coupon).some(({ key }) => key === step)) throw new HttpProblem('INVALID', `The coupon of this trial has no step "${step}".`, { field: 'step' })
      const [row] = await db
        .insert(stepReading)
        .values({ trialId: id, step, ...reading })
        .onConflictDoUpdate({ target: [stepReading.trialId, stepReading.step], set: { ...reading, readAt: sql`now()` } })
        .returning()
      return toReading(row)
    },
  }
}

function toReading({ step, grade, release, finish, forceN, leftOut }: typeof stepReading.$inferSelect): StepReading {
  return { step, grade: grade as Grade | null, release: release as Grade | null, finish: finish as Grade | null, forceN, leftOut }
}
