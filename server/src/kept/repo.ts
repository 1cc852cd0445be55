import type { KeptAbout, LastKept } from '@tender/contract'
import { desc, eq, inArray, sql } from 'drizzle-orm'
import type { Database } from '../storage/database'
import { keptAnswer, keptLast } from './schema'

/** So many answers are kept, those asked for last. */
const MOST_KEPT = 200

export type KeptAnswers = {
  /** The answer under a key, the last one about something from now on; null when none is kept. */
  answer(key: string, about?: KeptAbout): Promise<string | null>
  /** The same question has the same answer, whoever worked it out: the first one stays. */
  keep(key: string, answer: string, about?: KeptAbout): Promise<void>
  /** The last answers about some things, for whoever does not know yet what to ask. */
  last(about: readonly KeptAbout[]): Promise<LastKept>
}

/**
 * Answers that took somebody long, for the next one that asks the same. None of them is anybody's work: they
 * can be made anew, and no backup holds them.
 */
export function keptAnswers(db: Database): KeptAnswers {
  /** Nothing is noted of an answer that somebody has just cleared away. */
  const isLast = (key: string, about: KeptAbout) =>
    db.execute(sql`
      insert into ${keptLast} (about, key) select ${about}, key from ${keptAnswer} where key = ${key}
      on conflict (about) do update set key = excluded.key`)

  return {
    async answer(key, about) {
      const [found] = await db
        .update(keptAnswer)
        .set({ askedAt: sql`now()` as never })
        .where(eq(keptAnswer.key, key))
        .returning({ answer: keptAnswer.answer })
      if (found && about) await isLast(key, about)
      return found?.answer ?? null
    },
    async last(about) {
      const found = await db
        .select({ about: keptLast.about, key: keptAnswer.key, answer: keptAnswer.answer })
        .from(keptLast)
        .innerJoin(keptAnswer, eq(keptLast.key, keptAnswer.key))
        .where(inArray(keptLast.about, [...about]))
      return found
    },
    async keep(key, answer, about) {
      await db.insert(keptAnswer).values({ key, answer }).onConflictDoNothing()
      if (about) await isLast(key, about)
      const oldest = db
        .select({ key: keptAnswer.key })
        .from(keptAnswer)
        .orderBy(desc(keptAnswer.askedAt), keptAnswer.key)
        .offset(MOST_KEPT)
      await db.delete(keptAnswer).where(inArray(keptAnswer.key, oldest))
    },
  }
}
