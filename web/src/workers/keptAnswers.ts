import { createStore, del, get, keys, set, type UseStore } from 'idb-keyval'

declare const PLANNER_VERSION: string | undefined

/** So many answers are kept, those asked for last. */
const MOST_KEPT = 32
/** A browser may keep nothing, or answer late: nobody waits longer for it. */
const PATIENCE_MS = 600

let store: UseStore | null = null
const theStore = () => (store ??= createStore('tender-answers', 'answers'))

/**
 * What an answer is kept under: the question itself and the code that answers it; null where the browser
 * offers no hashing.
 * @param question as text
 */
export async function keyOf(question: string): Promise<string | null> {
  if (!('subtle' in crypto)) return null
  const version = typeof PLANNER_VERSION === 'undefined' ? 'none' : PLANNER_VERSION
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(`${version} ${question}`))
  return [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, '0')).join('')
}

/** An answer that was worked out before; null when there is none, or the browser keeps nothing. */
export async function keptAnswer<T>(key: string): Promise<T | null> {
  const late = new Promise<null>((resolve) => setTimeout(() => resolve(null), PATIENCE_MS))
  try {
    const found = get<{ answer: T }>(key, theStore()).then((entry) => entry?.answer ?? null)
    return await Promise.race([found, late])
  } catch {
    return null
  }
}

/** Keeps an answer, and lets go of what has not been asked for longest. */
export async function keepAnswer(key: string, answer: unknown): Promise<void> {
  try {
    await set(key, { answer, at: Date.now() }, theStore())
    const all = await keys<string>(theStore())
    if (all.length <= MOST_KEPT) return
    const aged = await Promise.all(
      all.map(async (one) => ({ one, at: (await get<{ at: number }>(one, theStore()))?.at ?? 0 })),
    )
    for (const { one } of aged.toSorted((a, b) => a.at - b.at).slice(0, all.length - MOST_KEPT))
      await del(one, theStore())
  } catch {
    // No room, or no store: then it is worked out anew next time.
  }
}
