import type { PlanInput } from '@tender/contract'
import { jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core'
import { part } from '../parts/schema'
import { storedColumns } from '../storage/columns'

export const plan = pgTable('plan', {
  ...storedColumns(),
  name: text('name').notNull(),
  partId: uuid('part_id')
    .notNull()
    .references(() => part.id),
  document: jsonb('document').$type<PlanInput['document']>().notNull(),
  figures: jsonb('figures').$type<PlanInput['figures']>(),
})
