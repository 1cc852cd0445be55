import { MOST_KEPT_BYTES, type KeptAbout, type LastKept } from '@tender/contract'
import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js'
import { parse, stringify } from 'devalue'
import { inTime, PATIENCE_MS } from '../api/inTime'
import { createStore, del, get, keys, set, type UseStore } from 'idb-keyval'

declare const PLANNER_VERSION: string | undefined

/** So many answers are kept, those asked for last. */
const MOST_KEPT = 32

let store: UseStore | null = null
const theStore = () => (store ??= createStore('tender-answers', 'answers'))

/**
 * What an answer is kept under: the question itself and the code that answers it.
 * @param question as text
 */
export function keyOf(question: string): string {
  const version = typeof PLANNER_VERSION === 'undefined' ? 'none' : PLANNER_VERSION
  // Browsers hash only where the page came by a safe way, which a phone on the workshop's network has not.
  return bytesToHex(sha256(utf8ToBytes(`${version} ${question}`)))
}

/** The last answer about something, where that is the one to a question. */
export function lastAnswer<T>(last: LastKept, about: KeptAbout, question: string): T | null {
  const found = last.find((one) => one.about === about)
  return found && found.key === keyOf(question) ? fromServer<T>(found.key, found.answer) : null
}

/**
 * What an answer is about, where other browsers are offered it as well: what is short, and takes long to work
 * out. Null where it stays here.
 */
type ForAll = KeptAbout | null

/**
 * An answer that was worked out before, by this browser or another one; null when there is none. Others are
 * asked beside this browser: one that opens its store for the first time takes long to say that it is empty.
 */
export async function keptAnswer<T>(key: string, forAll: ForAll = null): Promise<T | null> {
  const enough = new AbortController()
  const asked = [keptHere<T>(key), ...(forAll ? [keptForAll<T>(key, forAll, enough.signal)] : [])]
  const found = asked.map((kept) => kept.then((one) => one ?? Promise.reject(new Error('Nothing is kept.'))))
  return Promise.any(found)
    .catch(() => null)
    .finally(() => enough.abort())
}

/** Keeps an answer for the next time it is asked for. */
export async function keepAnswer(key: string, answer: unknown, forAll: ForAll = null): Promise<void> {
  await keepHere(key, answer)
  if (forAll) await keepForAll(key, answer, forAll)
}

/** A browser may keep nothing, or answer late. */
const keptHere = async <T>(key: string): Promise<T | null> => (await inTime(readHere<T>(key)))?.answer ?? null

/** Where a browser has no store it says so at once: by then it is a promise. */
const readHere = async <T>(key: string) => get<{ answer: T }>(key, theStore())

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

/** What the server kept as text; null where that is garbled. */
function fromServer<T>(key: string, text: string): T | null {
  try {
    const answer = parse(text) as T
    withServer.add(key)
    return answer
  } catch {
    return null
  }
}

const addressOf = (key: string, about: KeptAbout) => `/api/kept/${key}?about=${about}`

async function keptForAll<T>(key: string, about: KeptAbout, enough: AbortSignal): Promise<T | null> {
  try {
    const signal = AbortSignal.any([enough, AbortSignal.timeout(PATIENCE_MS)])
    const response = await fetch(addressOf(key, about), { signal })
    if (response.status !== 200) return null
    return fromServer<T>(key, await response.text())
  } catch {
    // A server that is gone keeps nothing from being worked out here.
    return null
  }
}

async function keepForAll(key: string, answer: unknown, about: KeptAbout): Promise<void> {
  if (withServer.has(key)) return
  try {
    const body = new TextEncoder().encode(stringify(answer))
    if (body.byteLength > MOST_KEPT_BYTES) return
    const headers = { 'Content-Type': 'text/plain' }
    const { ok } = await fetch(addressOf(key, about), { method: 'PUT', headers, body })
    if (ok) withServer.add(key)
  } catch {
    // Then every browser works it out by itself.
  }
}
