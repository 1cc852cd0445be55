import type { FoundPose, SearchInput } from '@tender/contract'
import type { Judgement } from '@tender/core/pose'
import type { Pose } from '@tender/core/mesh'
import { integer, jsonb, pgTable, primaryKey, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import { part } from '../parts/schema'

/** A search for better poses of a part. Round 0 finds the poses to judge, further rounds judge them, the last plans the best. */
export const poseSearch = pgTable('pose_search', {
  id: uuid('id').primaryKey(),
  partId: uuid('part_id').notNull().references(() => part.id), // prettier-ignore
  state: text('state', { enum: ['working', 'done', 'stopped', 'failed'] }).notNull(),
  round: integer('round').notNull().default(0),
  input: jsonb('input').$type<SearchInput>().notNull(),
  /** Why it failed. */
  message: text('message'),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
})

/** Poses that one worker looks at in one go; results is null until it has. */
export const poseBatch = pgTable(
  'pose_batch',
  {
    searchId: uuid('search_id').notNull().references(() => poseSearch.id, { onDelete: 'cascade' }), // prettier-ignore
    round: integer('round').notNull(),
    position: integer('position').notNull(),
    turns: jsonb('turns').$type<Pose['turn'][]>().notNull(),
    results: jsonb('results').$type<BatchResults>(),
  },
  (t) => [primaryKey({ columns: [t.searchId, t.round, t.position] })],
)

export type BatchResults = { readonly turns?: Pose['turn'][]; readonly judged?: Judgement[]; readonly planned?: FoundPose[] }
