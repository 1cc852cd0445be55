import { createStore, del, entries, set, type UseStore } from 'idb-keyval'
import { useEffect, useRef, useSyncExternalStore } from 'react'
import { z } from 'zod'
import { ApiError, sendFile } from '../api/client'
import { newId } from './newId'
import { LATER } from './useOutbox'

/** A picture that the server does not have yet. */
type KeptPhoto = {
  readonly id: string
  /** Where it goes: this, and its identity. */
  readonly path: string
  readonly picture: Blob
  readonly takenMs: number
  /** Why the server would not have it; null while it only could not be reached. */
  readonly refused: string | null
}

const AGAIN_MS = 2_500

let store: UseStore | null = null
const theStore = () => (store ??= createStore('tender-photos', 'photos'))
// A browser may keep nothing: then a picture waits as long as the page is open.
const keep = (photo: KeptPhoto) => attempt(() => set(photo.id, photo, theStore()))
const attempt = (work: () => Promise<unknown>) =>
  Promise.resolve()
    .then(work)
    .catch(() => undefined)

/**
 * All that waits in this browser, whatever it is of, in the order it was taken; and whether it is on its way
 * just now.
 */
type State = { readonly waiting: readonly KeptPhoto[]; readonly isSending: boolean }
let state: State = { waiting: [], isSending: false }
let isLoaded = false
let timer: ReturnType<typeof setTimeout> | undefined
const watchers = new Set<() => void>()
const receivers = new Set<(path: string, answer: unknown) => void>()

function show(next: Partial<State>): void {
  state = { ...state, ...next }
  for (const told of watchers) told()
}

/** What the last visit left. */
async function load(): Promise<void> {
  if (isLoaded) return
  isLoaded = true
  window.addEventListener('online', () => void sendWaiting())
  await attempt(async () => {
    const kept = (await entries<string, KeptPhoto>(theStore())).map(([, photo]) => photo)
    const known = new Set(state.waiting.map(({ id }) => id))
    const all = [...state.waiting, ...kept.filter(({ id }) => !known.has(id))]
    if (kept.length > 0) show({ waiting: all.toSorted((a, b) => a.takenMs - b.takenMs) })
  })
}

async function drop(id: string): Promise<void> {
  show({ waiting: state.waiting.filter((one) => one.id !== id) })
  await attempt(() => del(id, theStore()))
}

/** Sends what waits, one after the other, until there is nothing left or nobody answers. */
export async function sendWaiting(): Promise<void> {
  await load()
  const next = () => state.waiting.find(({ refused }) => refused === null)
  if (state.isSending || !next()) return
  clearTimeout(timer)
  show({ isSending: true })
  for (let photo = next(); photo; photo = next()) {
    const { id, path, picture } = photo
    try {
      const bytes = new Uint8Array(await picture.arrayBuffer())
      const answer = await sendFile(`${path}/${id}`, bytes, z.unknown())
      for (const receive of receivers) receive(path, answer)
      await drop(id)
    } catch (error) {
      const known = error instanceof ApiError ? error.problem : null
      if (!known || LATER.includes(known.code)) {
        timer = setTimeout(() => void sendWaiting(), AGAIN_MS)
        break
      }
      const refused = { ...photo, refused: known.title }
      show({ waiting: state.waiting.map((one) => (one.id === id ? refused : one)) })
      await keep(refused)
    }
  }
  show({ isSending: false })
}

const subscribe = (told: () => void) => {
  watchers.add(told)
  return () => void watchers.delete(told)
}
const now = () => state

/** The record that a picture's path belongs to. */
const recordOf = (path: string) => path.split('/photos/')[0]

/**
 * Pictures on their way to the server: each is kept in the browser until the server has it, and sent again
 * while the connection is away, whatever page is open. A picture has its identity from the start, so that
 * sending it twice makes one.
 * @param onSent told of each of the same record that has arrived
 */
export function usePhotoOutbox<P>(path: string, schema: z.ZodType<P>, onSent: (photo: P) => void) {
  const { waiting, isSending } = useSyncExternalStore(subscribe, now)
  const latest = useRef({ schema, onSent })
  useEffect(() => void (latest.current = { schema, onSent }))
  const record = recordOf(path)
  useEffect(() => {
    const receive = (from: string, answer: unknown) => {
      const photo = latest.current.schema.safeParse(answer)
      if (recordOf(from) === record && photo.success) latest.current.onSent(photo.data)
    }
    receivers.add(receive)
    void sendWaiting()
    return () => void receivers.delete(receive)
  }, [record])
  return {
    waiting: waiting.filter((one) => one.path === path),
    isSending,
    async add(picture: Blob) {
      const photo: KeptPhoto = { id: newId(), path, picture, takenMs: Date.now(), refused: null }
      show({ waiting: [...state.waiting, photo] })
      await keep(photo)
      void sendWaiting()
    },
    drop,
  }
}
