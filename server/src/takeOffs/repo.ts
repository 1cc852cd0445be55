import { isDeepStrictEqual } from 'node:util'
import {
  NOTHING_NOTED,
  PlanDocumentFields,
  WHOLE,
  type NoteChange,
  type StoredNote,
  type StoredTakeOff,
  type TakeOffInput,
  type TakeOffPhoto,
} from '@tender/contract'
import type { Grade } from '@tender/core/trial'
import { eq, getTableColumns, sql } from 'drizzle-orm'
import { keptPhotos } from '../blobs/photos'
import type { TakenPhoto } from '../blobs/takePhoto'
import { part } from '../parts/schema'
import { HttpProblem } from '../problem'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { jsonRows } from '../storage/jsonRows'
import { keyedRows } from '../storage/keyedRows'
import { amongIds, pagesOf } from '../storage/pages'
import { mustBeSame, mustStand, removeRoot, restoreRoot, saveRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { takeOff, takeOffNote, takeOffPhoto } from './schema'

export type TakeOffShelf = Shelf<TakeOffInput, StoredTakeOff> & {
  /** @throws HttpProblem NOT_FOUND, GONE, INVALID (field at), STALE (with the note as it stands) */
  changeNote(id: string, at: string, change: NoteChange): Promise<StoredNote>
  addPhoto(id: string, at: string, photoId: string, photo: TakenPhoto): Promise<TakeOffPhoto>
}

const noteFields = {
  at: takeOffNote.at,
  revision: takeOffNote.revision,
  release: takeOffNote.release,
  finish: takeOffNote.finish,
  stayed: takeOffNote.stayed,
  specks: takeOffNote.specks,
  damage: takeOffNote.damage,
  damageWhere: takeOffNote.damageWhere,
  leftOut: takeOffNote.leftOut,
  note: takeOffNote.note,
  tool: takeOffNote.tool,
  minutes: takeOffNote.minutes,
  partG: takeOffNote.partG,
  wasteG: takeOffNote.wasteG,
}
const photoFields = {
  id: takeOffPhoto.id,
  at: takeOffPhoto.at,
  widthPx: takeOffPhoto.widthPx,
  heightPx: takeOffPhoto.heightPx,
}

const notes = keyedRows(
  takeOffNote,
  'takeOffId',
  'at',
  NOTHING_NOTED,
  ({ takeOffId: _, marks: __, readAt: ___, release, finish, ...rest }): StoredNote => ({
    ...rest,
    release: release as Grade | null,
    finish: finish as Grade | null,
  }),
  'It was noted differently there.',
)

/**
 * Makes sure that a print has that contact.
 * @param held 'update' holds the print until the transaction ends
 * @throws HttpProblem NOT_FOUND, GONE, INVALID (field at)
 */
async function mustHaveContact(db: Database, id: string, at: string, held?: 'update'): Promise<void> {
  const has = sql<boolean>`${at} = ${WHOLE} or exists (select 1 from jsonb_array_elements(${takeOff.printed} -> 'contacts') as c where c ->> 'key' = ${at})`
  const query = db.select({ has, deletedAt: takeOff.deletedAt }).from(takeOff).where(eq(takeOff.id, id))
  const [row] = await (held ? query.for(held) : query)
  if (mustStand(row, row?.deletedAt).has) return
  throw new HttpProblem('INVALID', `This print has no contact "${at}".`, { field: 'at' })
}

export const takeOffPhotos = keptPhotos<TakeOffPhoto>(takeOffPhoto, 'takeOffId', 'at', (db, id, at) =>
  mustHaveContact(db, id, at, 'update'),
)

const notesOfIt = jsonRows<StoredNote>(
  noteFields,
  sql`from ${takeOffNote} where ${takeOffNote.takeOffId} = ${takeOff.id}`,
  sql`${takeOffNote.at}`,
).as('notes')
const photosOfIt = jsonRows<TakeOffPhoto>(
  photoFields,
  sql`from ${takeOffPhoto} where ${takeOffPhoto.takeOffId} = ${takeOff.id} and ${takeOffPhoto.deletedAt} is null`,
  sql`${takeOffPhoto.takenAt}`,
).as('photos')

export function takeOffShelf(db: Database): TakeOffShelf {
  const fields = { row: takeOff, partName: part.name, notes: notesOfIt, photos: photosOfIt }
  // Lists are fetched by every view that goes by readings: where the values of a plan came from is no matter
  // there.
  const lean = {
    ...getTableColumns(takeOff),
    document: sql<TakeOffInput['document']>`jsonb_set(${takeOff.document}, '{evidence}', '{}') - 'learnt'`.as(
      'document',
    ),
  }
  const oneQuery = db
    .select(fields)
    .from(takeOff)
    .innerJoin(part, eq(part.id, takeOff.partId))
    .where(eq(takeOff.id, sql.placeholder('id')))
    .prepare('take_off_one')
  const rowsQuery = db
    .select({ ...fields, row: lean })
    .from(takeOff)
    .innerJoin(part, eq(part.id, takeOff.partId))
    .where(amongIds(takeOff.id))
    .prepare('take_off_rows')
  const list = pagesOf(
    db,
    {
      table: takeOff,
      searched: [takeOff.name],
      orders: { printed: [takeOff.printedOn, takeOff.name], name: [takeOff.name] },
      usuallyDown: true,
      narrowed: {
        part: (partId) => eq(takeOff.partId, partId),
        bed: (bedId) => sql`${takeOff.bed} ->> 'id' = ${bedId}`,
      },
    },
    (ids) => rowsQuery.execute({ ids }),
    toTakeOff,
  )
  const one = async (id: string) => {
    const [found] = await oneQuery.execute({ id })
    return toTakeOff(mustStand(found, found?.row.deletedAt))
  }
  return {
    one,
    list,
    async save(id, revision, input) {
      if (revision !== null) mustBeAsPrinted(input, await one(id))
      const { document: _, printed: __, partId: ___, planId: ____, bed: _____, ...said } = input
      const values = revision === null ? input : said
      const written = await saveRoot(db, takeOff, id, revision, values as TakeOffInput, () => one(id))
      const stored = await one(id)
      if (!written) return mustBeSame(input, stored)
      return { ...stored, ...values, ...storedOf(written) }
    },
    remove: (id, revision) => removeRoot(db, takeOff, id, revision, () => one(id)),
    restore: (id) => restoreRoot(db, takeOff, id),
    async changeNote(id, at, change) {
      await mustHaveContact(db, id, at)
      return notes.change(db, id, at, change)
    },
    addPhoto: (id, at, photoId, photo) => takeOffPhotos.add(db, id, at, photoId, photo),
  }
}

/** Plan and print are written once. @throws HttpProblem INVALID */
function mustBeAsPrinted(input: TakeOffInput, stored: StoredTakeOff): void {
  for (const field of ['document', 'printed', 'partId'] as const)
    if (!isDeepStrictEqual(input[field], stored[field]))
      throw new HttpProblem('INVALID', 'What was printed does not change any more. Nothing was saved.', {
        field,
      })
}

type Row = {
  readonly row: typeof takeOff.$inferSelect
  readonly partName: string
  readonly notes: StoredNote[]
  readonly photos: TakeOffPhoto[]
}

function toTakeOff({ row, partName, notes: noted, photos }: Row): StoredTakeOff {
  const { createdAt: _, deletedAt: __, document, ...fields } = row
  return {
    ...fields,
    ...storedOf(row),
    // As with plans: one of an older version must not reach what expects more.
    document: PlanDocumentFields.parse(document),
    partName,
    notes: noted,
    photos,
  }
}
