import { MOST_PHOTOS_PER_STEP, type ReadingInput, type StepPhoto, type StepReading, type Trial, type TrialInput } from '@tender/contract'
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
import { stepPhoto, stepReading, trial } from './schema'
import type { TakenPhoto } from './takePhoto'

export type TrialShelf = Shelf<TrialInput, Trial> & {
  /** Writes down what was seen on one step; the same reading sent twice is one reading. */
  read(id: string, step: string, reading: ReadingInput): Promise<StepReading>
  /** Keeps a picture of a step; the same picture sent twice is one picture. */
  addPhoto(id: string, step: string, photoId: string, photo: TakenPhoto): Promise<StepPhoto>
  photo(photoId: string): Promise<Buffer>
  /** Marks a picture as removed; nothing is lost. */
  removePhoto(photoId: string): Promise<void>
  restorePhoto(photoId: string): Promise<void>
}

const photoFields = { id: stepPhoto.id, step: stepPhoto.step, widthPx: stepPhoto.widthPx, heightPx: stepPhoto.heightPx }

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
    const photos = await db
      .select({ trialId: stepPhoto.trialId, ...photoFields })
      .from(stepPhoto)
      .where(
        and(
          isNull(stepPhoto.deletedAt),
          inArray(
            stepPhoto.trialId,
            rows.map(({ row }) => row.id),
          ),
        ),
      )
      .orderBy(asc(stepPhoto.takenAt))
    return rows.map(({ row, ...names }) => {
      const { createdAt: _, deletedAt: __, ...fields } = row
      return {
        ...fields,
        ...storedOf(row),
        ...names,
        readings: readings.filter((one) => one.trialId === row.id).map(toReading),
        photos: photos.filter((one) => one.trialId === row.id).map(({ trialId: _, ...photo }) => photo),
      }
    })
  }
  const one = async (id: string) => {
    const [found] = await withReadings(await rowsWhere(eq(trial.id, id)))
    if (!found) throw notFound()
    return found
  }
  const mustHaveStep = async (id: string, step: string) => {
    const { coupon } = await one(id)
    if (!stepsOf(coupon).some(({ key }) => key === step)) throw new HttpProblem('INVALID', `The coupon of this trial has no step "${step}".`, { field: 'step' })
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
      await mustHaveStep(id, step)
      const [row] = await db
        .insert(stepReading)
        .values({ trialId: id, step, ...reading })
        .onConflictDoUpdate({ target: [stepReading.trialId, stepReading.step], set: { ...reading, readAt: sql`now()` } })
        .returning()
      return toReading(row)
    },
    async addPhoto(id, step, photoId, photo) {
      await mustHaveStep(id, step)
      const taken = await db
        .select({ id: stepPhoto.id })
        .from(stepPhoto)
        .where(and(eq(stepPhoto.trialId, id), eq(stepPhoto.step, step), isNull(stepPhoto.deletedAt)))
      if (taken.length >= MOST_PHOTOS_PER_STEP && !taken.some((known) => known.id === photoId))
        throw new HttpProblem('TOO_LARGE', `A step holds up to ${MOST_PHOTOS_PER_STEP} pictures. Remove one first.`)
      await db
        .insert(stepPhoto)
        .values({ ...photo, id: photoId, trialId: id, step })
        .onConflictDoNothing({ target: stepPhoto.id })
      const [kept] = await db.select(photoFields).from(stepPhoto).where(eq(stepPhoto.id, photoId))
      return kept
    },
    async photo(photoId) {
      const [found] = await db
        .select({ jpeg: stepPhoto.jpeg })
        .from(stepPhoto)
        .where(and(eq(stepPhoto.id, photoId), isNull(stepPhoto.deletedAt)))
      if (!found) throw notFound()
      return found.jpeg
    },
    async removePhoto(photoId) {
      await db
        .update(stepPhoto)
        .set({ deletedAt: sql`now()` })
        .where(eq(stepPhoto.id, photoId))
    },
    async restorePhoto(photoId) {
      await db.update(stepPhoto).set({ deletedAt: null }).where(eq(stepPhoto.id, photoId))
    },
  }
}

function toReading({ step, grade, release, finish, forceN, leftOut, note }: typeof stepReading.$inferSelect): StepReading {
  return { step, grade: grade as Grade | null, release: release as Grade | null, finish: finish as Grade | null, forceN, leftOut, note }
}
