import { desc, eq, inArray, sql } from 'drizzle-orm'
import type { Database } from '../storage/database'
import { keptAnswer } from './schema'

/** So many answers are kept, those asked for last. */
const MOST_KEPT = 200

export type KeptAnswers = {
  /** The answer under a key; null when none is kept. */
  answer(key: string): Promise<string | null>
  isKept(key: string): Promise<boolean>
  /** The same question has the same answer, whoever worked it out: the first one stays. */
  keep(key: string, answer: string): Promise<void>
}

/**
 * Answers that took somebody long, for the next one that asks the same. None of them is anybody's work: they
 * can be made anew, and no backup holds them.
 */
export function keptAnswers(db: Database): KeptAnswers {
  return {
    async answer(key) {
      const [found] = await db
        .update(keptAnswer)
        .set({ askedAt: sql`now()` as never })
        .where(eq(keptAnswer.key, key))
        .returning({ answer: keptAnswer.answer })
      return found?.answer ?? null
    },
    async isKept(key) {
      return (await db.$count(keptAnswer, eq(keptAnswer.key, key))) > 0
    },
    async keep(key, answer) {
      await db.insert(keptAnswer).values({ key, answer }).onConflictDoNothing()
      const oldest = db
        .select({ key: keptAnswer.key })
        .from(keptAnswer)
        .orderBy(desc(keptAnswer.askedAt), keptAnswer.key)
        .offset(MOST_KEPT)
      await db.delete(keptAnswer).where(inArray(keptAnswer.key, oldest))
    },
  }
}
