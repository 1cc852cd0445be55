import type { PlanDocument } from '@tender/core/decide'
import type { StageName } from '@tender/core/plan'
import { useCallback, useEffect, useRef, useState } from 'react'
import { unwrap, WorkError } from './answer'
import { planning, proxy } from './geometry'
import type { Outcome } from './geometry.worker'
import { nextTicket } from './tickets'

export type Working = { readonly stage: StageName; readonly share: number; readonly sinceMs: number }
export type PlanOutcome = {
  /** The newest finished result; while `working` is set it belongs to the values before. */
  readonly outcome: Outcome | null
  readonly version: number
  readonly working: Working | null
  readonly error: Error | null
  readonly stopped: boolean
  readonly cancel: () => void
  readonly retry: () => void
}

/** Keeps the numbers of a document up to date in the worker. A name alone leaves them as they are. */
export function usePlanOutcome(meshKey: string | undefined, document: PlanDocument): PlanOutcome {
  const [state, setState] = useState<{
    outcome: Outcome | null
    version: number
    error: Error | null
    stopped: boolean
  }>({ outcome: null, version: 0, error: null, stopped: false })
  const [working, setWorking] = useState<Working | null>(null)
  const [attempt, setAttempt] = useState(0)
  const newest = useRef(document)
  newest.current = document
  const asked = JSON.stringify({ ...document, name: '' })

  useEffect(() => {
    if (!meshKey) return
    const ticket = nextTicket()
    const startedAt = performance.now()
    let live = true
    let done = false
    setWorking({ stage: 'slice', share: 0, sinceMs: 0 })
    const onProgress = proxy((stage: StageName, share: number) => {
      // Progress comes by a port of its own and may arrive after the result.
      if (live && !done) setWorking({ stage, share, sinceMs: performance.now() - startedAt })
    })
    unwrap(planning.plan(ticket, meshKey, newest.current, onProgress))
      .then(
        (outcome) =>
          live &&
          setState((before) => ({ outcome, version: before.version + 1, error: null, stopped: false })),
      )
      .catch((error: Error) => {
        if (!live) return
        const stopped = error instanceof WorkError && error.code === 'STOPPED'
        setState((before) => ({ ...before, error: stopped ? null : error, stopped }))
      })
      .finally(() => {
        done = true
        if (live) setWorking(null)
      })
    return () => {
      live = false
    }
  }, [meshKey, asked, attempt])

  const cancel = useCallback(() => void planning.cancel(), [])
  const retry = useCallback(() => setAttempt((count) => count + 1), [])
  return { ...state, working, cancel, retry }
}
