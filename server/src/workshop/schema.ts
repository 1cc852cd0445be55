import type { WorkshopInput } from '@tender/contract'
import { integer, jsonb, pgTable, text } from 'drizzle-orm/pg-core'

/** What holds for the workshop as a whole: one row, once anything was chosen. */
export const workshop = pgTable('workshop', {
  name: text('name').primaryKey(),
  chosen: jsonb('chosen').$type<WorkshopInput>().notNull(),
  revision: integer('revision').notNull().default(1),
})
