import type { TakeOffInput, TakeOffNote } from '@tender/contract'
import { sql } from 'drizzle-orm'
import {
  boolean,
  check,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core'
import { blob } from '../blobs/schema'
import { part } from '../parts/schema'
import { plan } from '../plans/schema'
import { storedColumns } from '../storage/columns'
import type { ChangeMarks } from '../storage/keyedRows'

/** A print, with its plan as it was printed. */
export const takeOff = pgTable(
  'take_off',
  {
    ...storedColumns(),
    name: text('name').notNull(),
    printedOn: date('printed_on').notNull(),
    partId: uuid('part_id')
      .notNull()
      .references(() => part.id),
    planId: uuid('plan_id').references(() => plan.id, { onDelete: 'set null' }),
    bed: jsonb('bed').$type<TakeOffInput['bed']>(),
    damp: boolean('damp').notNull().default(false),
    simulated: boolean('simulated').notNull().default(false),
    lessonsLeftOut: jsonb('lessons_left_out').$type<TakeOffInput['lessonsLeftOut']>().notNull().default([]),
    /** Neither of these two is ever written again. */
    document: jsonb('document').$type<TakeOffInput['document']>().notNull(),
    printed: jsonb('printed').$type<TakeOffInput['printed']>().notNull(),
  },
  (t) => [index('take_off_part').on(t.partId), index('take_off_plan').on(t.planId)],
)

/** What was noted of a contact, or of the whole. */
export const takeOffNote = pgTable(
  'take_off_note',
  {
    takeOffId: uuid('take_off_id')
      .notNull()
      .references(() => takeOff.id, { onDelete: 'cascade' }),
    at: text('at').notNull(),
    release: integer('release'),
    finish: integer('finish'),
    stayed: text('stayed').$type<TakeOffNote['stayed']>(),
    specks: text('specks').$type<TakeOffNote['specks']>(),
    damage: text('damage').$type<TakeOffNote['damage']>(),
    damageWhere: text('damage_where').notNull().default(''),
    leftOut: boolean('left_out').notNull().default(false),
    note: text('note').notNull().default(''),
    tool: text('tool').$type<TakeOffNote['tool']>(),
    minutes: doublePrecision('minutes'),
    partG: doublePrecision('part_g'),
    wasteG: doublePrecision('waste_g'),
    revision: integer('revision').notNull().default(1),
    marks: jsonb('marks').$type<ChangeMarks>().notNull().default({}),
    readAt: timestamp('read_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.takeOffId, t.at] }),
    check(
      'take_off_note_grades',
      sql`coalesce(${t.release}, 1) between 1 and 5 and coalesce(${t.finish}, 1) between 1 and 5`,
    ),
  ],
)

/** Pictures of contacts, or of the whole. */
export const takeOffPhoto = pgTable(
  'take_off_photo',
  {
    id: uuid('id').primaryKey(),
    takeOffId: uuid('take_off_id')
      .notNull()
      .references(() => takeOff.id, { onDelete: 'cascade' }),
    at: text('at').notNull(),
    widthPx: integer('width_px').notNull(),
    heightPx: integer('height_px').notNull(),
    sha256: text('sha256')
      .notNull()
      .references(() => blob.sha256),
    takenAt: timestamp('taken_at', { withTimezone: true }).notNull().defaultNow(),
    deletedAt: timestamp('deleted_at', { withTimezone: true }),
  },
  (t) => [index('take_off_photo_take_off').on(t.takeOffId)],
)
