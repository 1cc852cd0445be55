import { useCallback, useEffect, useState } from 'react'

/** Steps that can be taken back. */
const MOST_STEPS = 100
/** Changes that follow each other faster are one step: a value on its way. */
const ONE_STEP_MS = 600

export type Past = {
  /** Takes the last change back; null when there is none. */
  readonly undo: (() => void) | null
  /** Makes again what was taken back; null when nothing was. */
  readonly redo: (() => void) | null
}

type Kept<T> = {
  readonly past: readonly T[]
  readonly now: T
  readonly future: readonly T[]
  readonly atMs: number
}

/** A value whose changes can be taken back. */
export function usePast<T>(first: T): Past & {
  readonly now: T
  readonly change: (next: T) => void
  /** Begins anew, with nothing to take back. */
  readonly restart: (from: T) => void
} {
  const [kept, setKept] = useState<Kept<T>>({ past: [], now: first, future: [], atMs: -Infinity })
  const change = useCallback((next: T) => {
    const atMs = performance.now()
    setKept(({ past, now, atMs: lastMs }) => {
      const isOnItsWay = past.length > 0 && atMs - lastMs < ONE_STEP_MS
      return { past: isOnItsWay ? past : [...past, now].slice(-MOST_STEPS), now: next, future: [], atMs }
    })
  }, [])
  const restart = useCallback((from: T) => setKept({ past: [], now: from, future: [], atMs: -Infinity }), [])
  const undo = useCallback(
    () =>
      setKept((before) => {
        const { past, now, future } = before
        if (past.length === 0) return before
        return { past: past.slice(0, -1), now: past.at(-1)!, future: [now, ...future], atMs: -Infinity }
      }),
    [],
  )
  const redo = useCallback(
    () =>
      setKept((before) => {
        const { past, now, future } = before
        if (future.length === 0) return before
        return { past: [...past, now], now: future[0], future: future.slice(1), atMs: -Infinity }
      }),
    [],
  )
  return {
    now: kept.now,
    change,
    restart,
    undo: kept.past.length > 0 ? undo : null,
    redo: kept.future.length > 0 ? redo : null,
  }
}

/** Ctrl+Z and Shift+Ctrl+Z, or with the command key, wherever nothing is typed. */
export function usePastKeys({ undo, redo }: Past): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey || event.key.toLowerCase() !== 'z') return
      if ((event.target as HTMLElement).closest('input, textarea, [contenteditable]')) return
      const step = event.shiftKey ? redo : undo
      if (!step) return
      step()
      event.preventDefault()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [undo, redo])
}
