import { MOST_KEPT_BYTES } from '@tender/contract'
import { parse, stringify } from 'devalue'
import { createStore, del, get, keys, set, type UseStore } from 'idb-keyval'

declare const PLANNER_VERSION: string | undefined

/** So many answers are kept, those asked for last. */
const MOST_KEPT = 32
/** A browser may keep nothing, and a browser or the server answer late: nobody waits longer for it. */
const PATIENCE_MS = 600

let store: UseStore | null = null
const theStore = () => (store ??= createStore('tender-answers', 'answers'))

/**
 * What an answer is kept under: the question itself and the code that answers it.
 * @param question as text
 */
export async function keyOf(question: string): Promise<string> {
  const version = typeof PLANNER_VERSION === 'undefined' ? 'none' : PLANNER_VERSION
  const asked = new TextEncoder().encode(`${version} ${question}`)
  // A browser hashes only where the page came by a safe way, which a phone on the workshop's network has not.
  const digest =
    'subtle' in crypto
      ? new Uint8Array(await crypto.subtle.digest('SHA-256', asked))
      : (await import('@noble/hashes/sha2.js')).sha256(asked)
  return [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('')
}

/** Whether other browsers are offered an answer as well: what is short, and takes long to work out. */
type Kept = { readonly forAll: boolean }
const HERE: Kept = { forAll: false }

/**
 * An answer that was worked out before, by this browser or another one; null when there is none. Others are
 * asked beside this browser: one that opens its store for the first time takes long to say that it is empty.
 */
export async function keptAnswer<T>(key: string, { forAll } = HERE): Promise<T | null> {
  const enough = new AbortController()
  const asked = [keptHere<T>(key), ...(forAll ? [keptForAll<T>(key, enough.signal)] : [])]
  const found = asked.map((kept) => kept.then((one) => one ?? Promise.reject(new Error('Nothing is kept.'))))
  return Promise.any(found)
    .catch(() => null)
    .finally(() => enough.abort())
}

/** Keeps an answer for the next time it is asked for. */
export async function keepAnswer(key: string, answer: unknown, { forAll } = HERE): Promise<void> {
  await keepHere(key, answer)
  if (forAll) await keepForAll(key, answer)
}

async function keptHere<T>(key: string): Promise<T | null> {
  const late = new Promise<null>((resolve) => setTimeout(() => resolve(null), PATIENCE_MS))
  try {
    const found = get<{ answer: T }>(key, theStore()).then((entry) => entry?.answer ?? null)
    return await Promise.race([found, late])
  } catch {
    return null
  }
}

/** Keeps an answer in this browser, and lets go of what has not been asked for longest. */
async function keepHere(key: string, answer: unknown): Promise<void> {
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

/** What the server is known to have. */
const withServer = new Set<string>()
const addressOf = (key: string) => `/api/kept/${key}`

async function keptForAll<T>(key: string, enough: AbortSignal): Promise<T | null> {
  try {
    const signal = AbortSignal.any([enough, AbortSignal.timeout(PATIENCE_MS)])
    const response = await fetch(addressOf(key), { signal })
    if (response.status !== 200) return null
    const answer = parse(await response.text()) as T
    withServer.add(key)
    return answer
  } catch {
    // A server that is gone keeps nothing from being worked out here.
    return null
  }
}

async function keepForAll(key: string, answer: unknown): Promise<void> {
  if (withServer.has(key)) return
  try {
    const body = new TextEncoder().encode(stringify(answer))
    if (body.byteLength > MOST_KEPT_BYTES) return
    const headers = { 'Content-Type': 'text/plain' }
    const { ok } = await fetch(addressOf(key), { method: 'PUT', headers, body })
    if (ok) withServer.add(key)
  } catch {
    // Then every browser works it out by itself.
  }
}
