import type { TrialInput } from '@tender/contract'
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
import { filament } from '../filaments/schema'
import { printer } from '../printers/schema'
import { storedColumns } from '../storage/columns'
import type { ChangeMarks } from '../storage/keyedRows'

export const trial = pgTable(
  'trial',
  {
    ...storedColumns(),
    name: text('name').notNull(),
    coupon: jsonb('coupon').$type<TrialInput['coupon']>().notNull(),
    printerId: uuid('printer_id')
      .notNull()
      .references(() => printer.id),
    partFilamentId: uuid('part_filament_id')
      .notNull()
      .references(() => filament.id),
    supportFilamentId: uuid('support_filament_id')
      .notNull()
      .references(() => filament.id),
    nozzleMm: doublePrecision('nozzle_mm').notNull(),
    layerHeightMm: doublePrecision('layer_height_mm').notNull(),
    lineWidthMm: doublePrecision('line_width_mm').notNull(),
    speedMmS: doublePrecision('speed_mm_s').notNull(),
    fanPercent: doublePrecision('fan_percent').notNull(),
    damp: boolean('damp').notNull(),
    tileAreaMm2: doublePrecision('tile_area_mm2'),
    printedOn: date('printed_on').notNull(),
    partLot: text('part_lot').notNull().default(''),
    supportLot: text('support_lot').notNull().default(''),
    offsetMm: jsonb('offset_mm').$type<[number, number, number]>(),
    note: text('note').notNull().default(''),
    leftOut: boolean('left_out').notNull().default(false),
    simulated: boolean('simulated').notNull().default(false),
  },
  (t) => [check('trial_layer_range', sql`${t.layerHeightMm} > 0 and ${t.layerHeightMm} <= 2`)],
)

/** What was seen on one step. Steps that a changed coupon no longer has keep their reading. */
export const stepReading = pgTable(
  'step_reading',
  {
    trialId: uuid('trial_id')
      .notNull()
      .references(() => trial.id, { onDelete: 'cascade' }),
    step: text('step').notNull(),
    grade: integer('grade'),
    release: integer('release'),
    finish: integer('finish'),
    forceN: doublePrecision('force_n'),
    leftOut: boolean('left_out').notNull().default(false),
    note: text('note').notNull().default(''),
    /** Counts up with every change; 0 only while the first one is being written. */
    revision: integer('revision').notNull().default(1),
    /** Per field: the revision of its last change and who made it. */
    marks: jsonb('marks').$type<ChangeMarks>().notNull().default({}),
    readAt: timestamp('read_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    primaryKey({ columns: [t.trialId, t.step] }),
    check(
      'step_reading_grades',
      sql`coalesce(${t.grade}, 1) between 1 and 5 and coalesce(${t.release}, 1) between 1 and 5 and coalesce(${t.finish}, 1) between 1 and 5`,
    ),
    check('step_reading_force', sql`${t.forceN} is null or (${t.forceN} >= 0 and ${t.forceN} <= 5000)`),
  ],
)

/** Pictures of steps, re-encoded by us: nothing of the file that came in is kept. */
export const stepPhoto = pgTable(
  'step_photo',
  {
    id: uuid('id').primaryKey(),
    trialId: uuid('trial_id')
      .notNull()
      .references(() => trial.id, { onDelete: 'cascade' }),
    step: text('step').notNull(),
    widthPx: integer('width_px').notNull(),
    heightPx: integer('height_px').notNull(),
    /** The picture itself, as JPEG. */
    sha256: text('sha256')
      .notNull()
      .references(() => blob.sha256),
    takenAt: timestamp('taken_at', { withTimezone: true }).notNull().defaultNow(),
    /** Set when the maker removed it; it can be brought back until then. */
    deletedAt: timestamp('deleted_at', { withTimezone: true }),
  },
  (t) => [index('step_photo_trial').on(t.trialId)],
)
