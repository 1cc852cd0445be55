import { customType, integer, timestamp, uuid } from 'drizzle-orm/pg-core'

export const bytea = customType<{ data: Buffer; driverData: Buffer }>({ dataType: () => 'bytea' })

/**
 * Identity, revision and times of every aggregate root. The caller makes the id, so that a save sent twice is
 * one save.
 */
export const storedColumns = () => ({
  id: uuid('id').primaryKey(),
  revision: integer('revision').notNull().default(1),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  updatedAt: timestamp('updated_at', { withTimezone: true }).notNull().defaultNow(),
  /** Set when the maker removed it; it can be brought back until then. */
  deletedAt: timestamp('deleted_at', { withTimezone: true }),
})

/** The part of a row that answers carry. */
export const storedOf = (row: { id: string; revision: number; updatedAt: Date }) => ({
  id: row.id,
  revision: row.revision,
  updatedAt: row.updatedAt.toISOString(),
})
