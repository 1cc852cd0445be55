import { index, pgTable, text, timestamp } from 'drizzle-orm/pg-core'

/** What browsers worked out, so that no other has to: found by what was asked, and by which version of it. */
export const keptAnswer = pgTable(
  'kept_answer',
  {
    key: text('key').primaryKey(),
    answer: text('answer').notNull(),
    askedAt: timestamp('asked_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [index('kept_answer_by_age').on(t.askedAt)],
)

/** Which of them was the last one about something. */
export const keptLast = pgTable('kept_last', {
  about: text('about').primaryKey(),
  key: text('key')
    .notNull()
    .references(() => keptAnswer.key, { onDelete: 'cascade' }),
})
