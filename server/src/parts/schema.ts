import type { Part } from '@tender/contract'
import { index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core'
import { blob } from '../blobs/schema'
import { storedColumns } from '../storage/columns'

/** A mesh file as it was brought in, found by its content, and what was made of it once. */
export const mesh = pgTable('mesh', {
  /** The file itself. */
  sha256: text('sha256')
    .primaryKey()
    .references(() => blob.sha256),
  facts: jsonb('facts').$type<Part['facts']>().notNull(),
  notes: jsonb('notes').$type<string[]>().notNull(),
  bodies: jsonb('bodies').$type<Part['meshBodies']>().notNull().default([]),
  /** The mended mesh, packed; files from before that was kept get theirs when they are first asked for. */
  packedSha256: text('packed_sha256').references(() => blob.sha256),
  /** A rough copy of a heavy mesh: small pictures need not fetch a hundred megabytes. */
  roughSha256: text('rough_sha256').references(() => blob.sha256),
})

export const part = pgTable(
  'part',
  {
    ...storedColumns(),
    name: text('name').notNull(),
    fileName: text('file_name').notNull(),
    meshSha256: text('mesh_sha256')
      .notNull()
      .references(() => mesh.sha256),
    pose: jsonb('pose').$type<Part['pose']>().notNull(),
    tags: jsonb('tags').$type<string[]>().notNull().default([]),
    zones: jsonb('zones').$type<Part['zones']>().notNull().default([]),
    /** What each body of the file is for. */
    bodies: jsonb('bodies').$type<Part['bodies']>().notNull().default([]),
    /** The part that this one is a newer version of. */
    olderId: uuid('older_id'),
  },
  (t) => [index('part_mesh').on(t.meshSha256)],
)
