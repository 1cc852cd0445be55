import { bigint, integer, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core'
import { bytea } from '../storage/columns'

/** Bytes found by their content: the same bytes are stored once, whoever refers to them. */
export const blob = pgTable('blob', {
  sha256: text('sha256').primaryKey(),
  byteLength: bigint('byte_length', { mode: 'number' }).notNull(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
})

/** Their pieces, small enough to be sent on one by one. */
export const blobChunk = pgTable(
  'blob_chunk',
  {
    sha256: text('sha256')
      .notNull()
      .references(() => blob.sha256, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    bytes: bytea('bytes').notNull(),
  },
  (t) => [primaryKey({ columns: [t.sha256, t.position] })],
)
