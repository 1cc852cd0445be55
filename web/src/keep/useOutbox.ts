import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { ApiError } from '../api/client'
import { forget, keep, keepAs, keptOf, type Kept } from './outbox'
import { TAB } from './tab'

export type Sent = { readonly base: number; readonly by: string; readonly changes: Record<string, unknown> }

export type Outbox = {
  /** Changes that wait to be sent, oldest first. */
  readonly waiting: readonly Kept[]
  /** Changes that the server would not have, each with its reason; the maker decides. */
  readonly aside: readonly Kept[]
  /** Why nothing can be sent just now. */
  readonly problem: string | null
  change(target: string, base: number, changes: Record<string, unknown>): void
  /** Sends something set aside once more, as a change of what stands there now. */
  again(id: string, base: number): void
  drop(id: string): void
}

const AGAIN_MS = 2_500
/** These say that the server cannot just now; what it refuses for another reason it would refuse again. */
export const LATER: readonly string[] = ['OFFLINE', 'DISK_FULL', 'INTERNAL']
/**
 * So often an answer that nobody foresaw is asked for anew, before the change is set aside and the others go
 * on.
 */
const MOST_TRIES = 3

/**
 * Changes on their way to the server. Each is kept in the browser until the server has it, sent in order, and
 * again while the connection is away. One that is refused is set aside and told; the others go on.
 * @param send gives the change to the server
 * @param onRefused told of a refusal, with the state of things that came with it
 */
export function useOutbox(
  topic: string,
  send: (target: string, change: Sent) => Promise<void>,
  onRefused?: (target: string, current: unknown) => void,
): Outbox {
  const [kept, setKept] = useState<readonly Kept[]>(() => keptOf(topic))
  const [problem, setProblem] = useState<string | null>(null)
  const all = useRef(kept)
  const sending = useRef<string | null>(null)
  const tries = useRef(new Map<string, number>())
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const calls = useRef({ send, onRefused })
  useEffect(() => void (calls.current = { send, onRefused }))

  const show = useCallback((next: readonly Kept[]) => {
    all.current = next
    setKept(next)
  }, [])
  const replace = useCallback(
    (entry: Kept) => show(all.current.map((one) => (one.id === entry.id ? keepAs(topic, entry) : one))),
    [show, topic],
  )
  const remove = useCallback(
    (id: string) => {
      forget(topic, id)
      show(all.current.filter((one) => one.id !== id))
    },
    [show, topic],
  )

  const flush = useCallback(async () => {
    if (sending.current !== null) return
    clearTimeout(timer.current)
    const next = () => all.current.find((one) => one.refused === null)
    for (let entry = next(); entry; entry = next()) {
      const { id, target, base, changes } = entry
      sending.current = id
      try {
        await calls.current.send(target, { base, by: TAB, changes })
        remove(id)
        setProblem(null)
      } catch (error) {
        const known = error instanceof ApiError ? error.problem : null
        const tried = (tries.current.get(id) ?? 0) + 1
        tries.current.set(id, tried)
        if (!known || (LATER.includes(known.code) && (known.code !== 'INTERNAL' || tried < MOST_TRIES))) {
          setProblem((error as Error).message)
          timer.current = setTimeout(() => void flush(), AGAIN_MS)
          break
        }
        setProblem(null)
        if (known.code === 'STALE') calls.current.onRefused?.(target, known.current)
        replace({ ...entry, refused: known.title })
      } finally {
        sending.current = null
      }
    }
  }, [remove, replace])

  useEffect(() => {
    void flush()
    const back = () => void flush()
    window.addEventListener('online', back)
    return () => {
      window.removeEventListener('online', back)
      clearTimeout(timer.current)
    }
  }, [flush])

  const change = useCallback(
    (target: string, base: number, changes: Record<string, unknown>) => {
      const open = all.current.findLast((one) => one.target === target && one.refused === null)
      // What was not sent yet grows; what is under way is followed by another.
      if (open && open.id !== sending.current) replace({ ...open, changes: { ...open.changes, ...changes } })
      else show([...all.current, keep(topic, target, base, changes)])
      void flush()
    },
    [flush, replace, show, topic],
  )
  const again = useCallback(
    (id: string, base: number) => {
      const entry = all.current.find((one) => one.id === id)
      if (!entry) return
      replace({ ...entry, base, refused: null })
      void flush()
    },
    [flush, replace],
  )
  return useMemo(
    () => ({
      waiting: kept.filter((one) => one.refused === null),
      aside: kept.filter((one) => one.refused !== null),
      problem,
      change,
      again,
      drop: remove,
    }),
    [kept, problem, change, again, remove],
  )
}
