import type { FamilyInput } from '@tender/contract'
import { doublePrecision, integer, jsonb, pgTable, text } from 'drizzle-orm/pg-core'

/**
 * Numbers of a family that the maker changed. Ours are never stored, so that what we learn reaches every
 * bench but loses nothing of theirs.
 */
export const familyChange = pgTable('family_change', {
  name: text('name').primaryKey(),
  facts: jsonb('facts').$type<FamilyInput>().notNull(),
  revision: integer('revision').notNull().default(1),
})

/** Cling of a pair of families that the maker found otherwise. */
export const clingChange = pgTable('cling_change', {
  /** Both families in their order, with a dash between. */
  pair: text('pair').primaryKey(),
  cling: doublePrecision('cling').notNull(),
  source: text('source').notNull(),
  revision: integer('revision').notNull().default(1),
})
