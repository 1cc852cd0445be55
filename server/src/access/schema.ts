import { pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core'

/** A phone or another machine that was let in. Only a hash of what it shows is kept. */
export const device = pgTable('device', {
  id: uuid('id').primaryKey(),
  name: text('name').notNull(),
  tokenSha256: text('token_sha256').notNull().unique(),
  letInAt: timestamp('let_in_at', { withTimezone: true }).notNull().defaultNow(),
  seenAt: timestamp('seen_at', { withTimezone: true }).notNull().defaultNow(),
})
