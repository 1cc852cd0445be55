import { createHash } from 'node:crypto'

/** An answer as it is sent. */
export type ReadyAnswer = { readonly body: string; readonly etag: string }

/** What is kept at most, in characters; the longest unused goes first. */
const MOST_KEPT = 32e6
/**
 * What another process changes in the same database is seen after this time. Our own changes are seen at
 * once.
 */
const LASTS_MS = 1000

/** Tables that the answers of a shelf are made of: a change of any of them makes the answers stale. */
export type Sources = readonly string[]

export type ReadCache = {
  /** The answer to a question, from memory while it is young and nothing that it is made of has changed. */
  answer(question: string, sources: Sources, make: () => Promise<unknown>): Promise<ReadyAnswer>
  /** We changed a table. */
  changed(table: string): void
}

/**
 * Answers that are asked for again and again, by many at once. None is given that was read before a change of
 * ours.
 */
export function createReadCache(now: () => number = Date.now): ReadCache {
  /** In the order of their use. */
  const kept = new Map<string, ReadyAnswer & { readonly sources: Sources; readonly readAt: number }>()
  const generations = new Map<string, number>()
  let size = 0
  const generationOf = (sources: Sources) => sources.map((table) => generations.get(table) ?? 0).join()
  const drop = (question: string) => {
    const known = kept.get(question)
    if (!known) return
    kept.delete(question)
    size -= known.body.length
  }
  return {
    async answer(question, sources, make) {
      const known = kept.get(question)
      const readAt = now()
      if (known && readAt - known.readAt < LASTS_MS) {
        kept.delete(question)
        kept.set(question, known)
        return known
      }
      drop(question)
      const before = generationOf(sources)
      const body = JSON.stringify(await make())
      const etag = `"${createHash('sha1').update(body).digest('base64url')}"`
      // What changed while it was read may not be in it.
      if (generationOf(sources) === before) {
        drop(question)
        kept.set(question, { body, etag, sources, readAt })
        size += body.length
        for (const oldest of kept.keys()) {
          if (size <= MOST_KEPT) break
          drop(oldest)
        }
      }
      return { body, etag }
    },
    changed(table) {
      generations.set(table, (generations.get(table) ?? 0) + 1)
      for (const [question, { sources }] of kept) if (sources.includes(table)) drop(question)
    },
  }
}
