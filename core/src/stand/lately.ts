import { sameValues } from '../sameValues'

/** Answers to the last few questions. */
export type Lately<T> = (asked: readonly unknown[], answer: () => Promise<T>) => Promise<T>

/**
 * Remembers what it was asked lately: a question whose values are all the same, one by one, has the same
 * answer.
 */
export function lately<T>(most: number): Lately<T> {
  const known: { asked: readonly unknown[]; answer: T }[] = []
  return async (asked, answer) => {
    const found = known.findIndex((one) => sameValues(one.asked, asked))
    const [one] = found < 0 ? [{ asked, answer: await answer() }] : known.splice(found, 1)
    known.unshift(one)
    known.length = Math.min(known.length, most)
    return one.answer
  }
}
