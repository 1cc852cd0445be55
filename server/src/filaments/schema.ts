import { sql } from 'drizzle-orm'
import {
  boolean,
  check,
  date,
  doublePrecision,
  integer,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'
import { storedColumns } from '../storage/columns'

export const filament = pgTable(
  'filament',
  {
    ...storedColumns(),
    name: text('name').notNull(),
    family: text('family').notNull(),
    colour: text('colour').notNull(),
    densityGcm3: doublePrecision('density_g_cm3').notNull(),
    diameterMm: doublePrecision('diameter_mm').notNull(),
    pricePerKg: doublePrecision('price_per_kg').notNull(),
    nozzleC: doublePrecision('nozzle_c').notNull(),
    bedC: doublePrecision('bed_c').notNull(),
  },
  (t) => [
    uniqueIndex('filament_name')
      .on(t.name)
      .where(sql`${t.deletedAt} is null`),
    check('filament_density_range', sql`${t.densityGcm3} >= 0.3 and ${t.densityGcm3} <= 5`),
  ],
)

export const spool = pgTable(
  'spool',
  {
    filamentId: uuid('filament_id')
      .notNull()
      .references(() => filament.id, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    label: text('label').notNull(),
    id: uuid('id').notNull().defaultRandom(),
    lot: text('lot').notNull().default(''),
    gramsLeft: doublePrecision('grams_left').notNull(),
    emptyG: doublePrecision('empty_g'),
    pricePerKg: doublePrecision('price_per_kg'),
    colour: text('colour'),
    openedOn: date('opened_on'),
    driedOn: date('dried_on'),
    damp: boolean('damp').notNull().default(false),
  },
  (t) => [
    primaryKey({ columns: [t.filamentId, t.position] }),
    uniqueIndex('spool_id').on(t.id),
    check('spool_grams_range', sql`${t.gramsLeft} >= 0 and ${t.gramsLeft} <= 50000`),
  ],
)
