import type { ReadingChange, ReadingInput, StepPhoto, StepReading, Trial, TrialInput } from '@tender/contract'
import { eq, sql } from 'drizzle-orm'
import { alias } from 'drizzle-orm/pg-core'
import { filament } from '../filaments/schema'
import { printer } from '../printers/schema'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { jsonRows } from '../storage/jsonRows'
import { amongIds, pagesOf } from '../storage/pages'
import { mustBeSame, mustStand, removeRoot, restoreRoot, saveRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { keptPhotos } from '../blobs/photos'
import type { TakenPhoto } from '../blobs/takePhoto'
import { changeReading, mustHaveStep, readingFields, writeReading } from './readings'
import { stepPhoto, stepReading, trial } from './schema'

export type TrialShelf = Shelf<TrialInput, Trial> & {
  changeReading(id: string, step: string, change: ReadingChange): Promise<StepReading>
  writeReading(id: string, step: string, revision: number | null, reading: ReadingInput): Promise<StepReading>
  addPhoto(id: string, step: string, photoId: string, photo: TakenPhoto): Promise<StepPhoto>
}

export const trialPhotos = keptPhotos<StepPhoto>(stepPhoto, 'trialId', 'step', (db, trialId, step) =>
  mustHaveStep(db, trialId, step, 'update'),
)
const photoFields = {
  id: stepPhoto.id,
  step: stepPhoto.step,
  widthPx: stepPhoto.widthPx,
  heightPx: stepPhoto.heightPx,
}

const readingsOfIt = jsonRows<StepReading>(
  readingFields,
  sql`from ${stepReading} where ${stepReading.trialId} = ${trial.id}`,
  sql`${stepReading.step}`,
).as('readings')
const photosOfIt = jsonRows<StepPhoto>(
  photoFields,
  sql`from ${stepPhoto} where ${stepPhoto.trialId} = ${trial.id} and ${stepPhoto.deletedAt} is null`,
  sql`${stepPhoto.takenAt}`,
).as('photos')

export function trialShelf(db: Database): TrialShelf {
  const partFilament = alias(filament, 'part_filament')
  const supportFilament = alias(filament, 'support_filament')
  const fields = {
    row: trial,
    printerName: printer.name,
    partFilamentName: partFilament.name,
    supportFilamentName: supportFilament.name,
    readings: readingsOfIt,
    photos: photosOfIt,
  }
  const oneQuery = db
    .select(fields)
    .from(trial)
    .innerJoin(printer, eq(printer.id, trial.printerId))
    .innerJoin(partFilament, eq(partFilament.id, trial.partFilamentId))
    .innerJoin(supportFilament, eq(supportFilament.id, trial.supportFilamentId))
    .where(eq(trial.id, sql.placeholder('id')))
    .prepare('trial_one')
  const rowsQuery = db
    .select(fields)
    .from(trial)
    .innerJoin(printer, eq(printer.id, trial.printerId))
    .innerJoin(partFilament, eq(partFilament.id, trial.partFilamentId))
    .innerJoin(supportFilament, eq(supportFilament.id, trial.supportFilamentId))
    .where(amongIds(trial.id))
    .prepare('trial_rows')
  const isRead = sql`exists (select 1 from ${stepReading} where ${stepReading.trialId} = ${trial.id})`
  const list = pagesOf(
    db,
    {
      table: trial,
      searched: [trial.name],
      orders: { printed: [trial.printedOn, trial.name], name: [trial.name] },
      usuallyDown: true,
      narrowed: { read: (word) => (word === 'yes' ? isRead : sql`not ${isRead}`) },
    },
    (ids) => rowsQuery.execute({ ids }),
    toTrial,
  )
  const one = async (id: string) => {
    const [found] = await oneQuery.execute({ id })
    return toTrial(mustStand(found, found?.row.deletedAt))
  }
  return {
    one,
    list,
    async save(id, revision, input) {
      const written = await saveRoot(db, trial, id, revision, input, () => one(id))
      const stored = await one(id)
      if (!written) return mustBeSame(input, stored)
      // Readings come and go beside the trial itself: whatever stands there now, this save had its own
      // revision.
      return { ...stored, ...input, ...storedOf(written) }
    },
    remove: (id, revision) => removeRoot(db, trial, id, revision, () => one(id)),
    restore: (id) => restoreRoot(db, trial, id),
    changeReading: (id, step, change) => changeReading(db, id, step, change),
    writeReading: (id, step, revision, reading) => writeReading(db, id, step, revision, reading),
    addPhoto: (id, step, photoId, photo) => trialPhotos.add(db, id, step, photoId, photo),
  }
}

type Row = {
  readonly row: typeof trial.$inferSelect
  readonly printerName: string
  readonly partFilamentName: string
  readonly supportFilamentName: string
  readonly readings: StepReading[]
  readonly photos: StepPhoto[]
}

function toTrial({ row, printerName, partFilamentName, supportFilamentName, readings, photos }: Row): Trial {
  const { createdAt: _, deletedAt: __, ...fields } = row
  return { ...fields, ...storedOf(row), printerName, partFilamentName, supportFilamentName, readings, photos }
}
