import type { Part } from '@tender/contract'
import { bigint, integer, jsonb, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core'
import { bytea, storedColumns } from '../storage/columns'

/** A mesh file as it was brought in, found by its content: the same file is stored once. */
export const mesh = pgTable('mesh', {
  sha256: text('sha256').primaryKey(),
  byteLength: bigint('byte_length', { mode: 'number' }).notNull(),
  facts: jsonb('facts').$type<Part['facts']>().notNull(),
  notes: jsonb('notes').$type<string[]>().notNull(),
  bodies: jsonb('bodies').$type<Part['meshBodies']>().notNull().default([]),
})

/** Its bytes, in pieces small enough to be sent on one by one. */
export const meshChunk = pgTable(
  'mesh_chunk',
  {
    sha256: text('sha256').notNull().references(() => mesh.sha256, { onDelete: 'cascade' }), // prettier-ignore
    position: integer('position').notNull(),
    bytes: bytea('bytes').notNull(),
  },
  (t) => [primaryKey({ columns: [t.sha256, t.position] })],
)

/** A rough copy of a heavy mesh, as STL: small pictures need not fetch a hundred megabytes. */
export const meshRough = pgTable('mesh_rough', {
  sha256: text('sha256').primaryKey().references(() => mesh.sha256, { onDelete: 'cascade' }), // prettier-ignore
  bytes: bytea('bytes').notNull(),
})

export const part = pgTable('part', {
  ...storedColumns(),
  name: text('name').notNull(),
  fileName: text('file_name').notNull(),
  meshSha256: text('mesh_sha256').notNull().references(() => mesh.sha256), // prettier-ignore
  pose: jsonb('pose').$type<Part['pose']>().notNull(),
  tags: jsonb('tags').$type<string[]>().notNull().default([]),
  zones: jsonb('zones').$type<Part['zones']>().notNull().default([]),
  /** What each body of the file is for. */
  bodies: jsonb('bodies').$type<Part['bodies']>().notNull().default([]),
  /** The part that this one is a newer version of. */
  olderId: uuid('older_id'),
})
