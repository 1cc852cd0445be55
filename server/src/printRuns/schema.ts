import type { RunInput, RunProgress, RunState } from '@tender/contract'
import { bigint, index, jsonb, pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import { takeOff } from '../takeOffs/schema'
import { trial } from '../trials/schema'

/** A file on its way through a printer. The file itself lies in a folder beside the database. */
export const printRun = pgTable(
  'print_run',
  {
    id: uuid('id').primaryKey(),
    takeOffId: uuid('take_off_id').references(() => takeOff.id, { onDelete: 'cascade' }),
    trialId: uuid('trial_id').references(() => trial.id, { onDelete: 'cascade' }),
    input: jsonb('input').$type<RunInput>().notNull(),
    state: text('state').$type<RunState>().notNull(),
    message: text('message'),
    bytes: bigint('bytes', { mode: 'number' }).notNull(),
    /** What its printer had done when this was last written down. */
    progress: jsonb('progress').$type<RunProgress>().notNull(),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [
    index('print_run_take_off').on(t.takeOffId, t.createdAt),
    index('print_run_trial').on(t.trialId, t.createdAt),
  ],
)
