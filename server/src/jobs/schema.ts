import { sql } from 'drizzle-orm'
import {
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core'
import { part } from '../parts/schema'

/** Long work on a part, done in rounds of batches by worker processes. What it is about, its kind knows. */
export const job = pgTable(
  'job',
  {
    id: uuid('id').primaryKey(),
    kind: text('kind').notNull(),
    partId: uuid('part_id')
      .notNull()
      .references(() => part.id, { onDelete: 'cascade' }),
    state: text('state', { enum: ['working', 'done', 'stopped', 'failed'] }).notNull(),
    round: integer('round').notNull().default(0),
    input: jsonb('input').$type<unknown>().notNull(),
    /** Why it failed. */
    message: text('message'),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    index('job_part').on(t.partId, t.kind, t.createdAt),
    // Of several started at once, one runs.
    uniqueIndex('job_working')
      .on(t.partId, t.kind)
      .where(sql`${t.state} = 'working'`),
  ],
)

/** What one worker does in one go; results is null until it has. */
export const jobBatch = pgTable(
  'job_batch',
  {
    jobId: uuid('job_id')
      .notNull()
      .references(() => job.id, { onDelete: 'cascade' }),
    round: integer('round').notNull(),
    position: integer('position').notNull(),
    work: jsonb('work').$type<unknown>().notNull(),
    results: jsonb('results').$type<unknown>(),
    /** The worker that is at it, by the number of the lock it holds while it lives. */
    worker: integer('worker'),
    /** How often a worker began it: what ends every worker is given up. */
    attempts: integer('attempts').notNull().default(0),
  },
  (t) => [primaryKey({ columns: [t.jobId, t.round, t.position] })],
)
