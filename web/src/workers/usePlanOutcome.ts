import type { PlanDocument } from '@tender/core/decide'
import { keptQuestions } from '@tender/contract'
import { keptId, type Cuttable, type KeptOutcome, type Outcome, type StageName } from '@tender/core/plan'
import { useCallback, useEffect, useRef, useState } from 'react'
import { unwrap, WorkError } from './answer'
import { planning, proxy } from './geometry'
import { keepAnswer, keptAnswer, keyOf } from './keptAnswers'
import { nextTicket } from './tickets'
import { Told } from './told'

export type Working = { readonly stage: StageName; readonly share: number; readonly sinceMs: number }
export const NOT_BEGUN: Working = { stage: 'slice', share: 0, sinceMs: 0 }

/** A plan that one browser has worked out opens at once in the next, be it a phone beside the printer. */
const FOR_ALL = { forAll: true }
/** What was kept is drawn before the processors are given the work of making it anew. */
const DRAWN_WITHIN_MS = 300

export type PlanOutcome = {
  /** The newest finished result; while `working` is set it belongs to the values before. */
  readonly outcome: (Outcome & Partial<Pick<KeptOutcome, 'sections'>>) | null
  /** What can be drawn of a plan that never had a result, before its lines are traced. */
  readonly early: Cuttable | null
  readonly version: number
  readonly working: boolean
  readonly progress: Told<Working>
  readonly error: Error | null
  readonly stopped: boolean
  readonly cancel: () => void
  readonly retry: () => void
}

/**
 * What was kept of a plan that is being opened; null where nothing was, undefined until that is known.
 * @param mesh by its hash
 */
export function useKeptOutcome(
  mesh: string,
  document: PlanDocument | undefined,
): KeptOutcome | null | undefined {
  const [kept, setKept] = useState<KeptOutcome | null>()
  const asked = document && keptQuestions.plan(mesh, document)
  useEffect(() => {
    if (asked === undefined || kept !== undefined) return
    let live = true
    void keyOf(asked)
      .then((key) => keptAnswer<KeptOutcome>(key, FOR_ALL))
      .catch(() => null)
      .then((found) => live && setKept(found))
    return () => {
      live = false
    }
    // What is looked for is what is opened, not what it becomes.
  }, [asked, kept])
  return kept
}

/**
 * Keeps the numbers of a document up to date in the worker.
 * @param opened the mesh by its hash, and what was kept of the plan: shown until it is worked out again
 */
export function usePlanOutcome(
  meshKey: string | undefined,
  document: PlanDocument,
  opened?: { readonly mesh: string; readonly kept: KeptOutcome | null },
): PlanOutcome {
  const [state, setState] = useState<{
    outcome: PlanOutcome['outcome']
    version: number
    error: Error | null
    stopped: boolean
  }>({ outcome: opened?.kept ?? null, version: 0, error: null, stopped: false })
  const [working, setWorking] = useState(false)
  const [progress] = useState(() => new Told(NOT_BEGUN))
  const [early, setEarly] = useState<Cuttable | null>(null)
  const [attempt, setAttempt] = useState(0)
  /** Later on the drawing before stays until the next is there. */
  const isFirst = useRef(true)
  /** Until what was kept of it is drawn. */
  const [drawn] = useState(
    () => state.outcome && new Promise((resolve) => setTimeout(resolve, DRAWN_WITHIN_MS)),
  )
  /** Ends that wait, so that nothing is begun after a stop. */
  const giveUp = useRef(() => {})
  const newest = useRef(document)
  newest.current = document
  const asked = keptQuestions.plan(opened?.mesh ?? '', document)
  const isKept = opened !== undefined

  useEffect(() => {
    if (!meshKey) return
    const ticket = nextTicket()
    const startedAt = performance.now()
    let live = true
    let done = false
    progress.tell(NOT_BEGUN)
    setWorking(true)
    const onProgress = proxy((stage: StageName, share: number) => {
      // Progress comes by a port of its own and may arrive after the result.
      if (live && !done) progress.tell({ stage, share, sinceMs: performance.now() - startedAt })
    })
    const onShapes = isFirst.current
      ? proxy((shapes: Cuttable) => live && !done && setEarly(shapes))
      : undefined
    const stop = new Promise<never>((_, reject) => {
      giveUp.current = () => reject(new WorkError('STOPPED', 'The work was stopped.'))
    })
    Promise.race([drawn, stop])
      .then(() =>
        live ? unwrap(planning.plan(ticket, meshKey, newest.current, onProgress, onShapes)) : null,
      )
      .then((outcome) => {
        if (!live || !outcome) return
        isFirst.current = false
        setState((before) => ({ outcome, version: before.version + 1, error: null, stopped: false }))
        if (isKept) setTimeout(() => live && void keepSoon(asked, outcome), KEEP_AFTER_MS)
      })
      .catch((error: Error) => {
        if (!live) return
        const stopped = error instanceof WorkError && error.code === 'STOPPED'
        setState((before) => ({ ...before, error: stopped ? null : error, stopped }))
      })
      .finally(() => {
        done = true
        if (!live) return
        setWorking(false)
        setEarly(null)
      })
    return () => {
      live = false
    }
  }, [meshKey, asked, attempt, isKept, drawn, progress])

  const cancel = useCallback(() => {
    giveUp.current()
    void planning.cancel()
  }, [])
  const retry = useCallback(() => setAttempt((count) => count + 1), [])
  // What was kept is shown, but is no result to go on from.
  const onlyKept = state.outcome?.sections !== undefined && !state.error && !state.stopped
  return { ...state, early, working: working || onlyKept, progress, cancel, retry }
}

/** A plan is kept once it has stood for a while: not every step of a key. */
const KEEP_AFTER_MS = 1500

async function keepSoon(asked: string, outcome: Outcome): Promise<void> {
  const key = await keyOf(asked)
  const [across, along] = [
    await planning.section(outcome.id, 0, 0),
    await planning.section(outcome.id, 90, 0),
  ]
  if (across && along)
    await keepAnswer(key, { ...outcome, id: keptId(key), sections: { 0: across, 90: along } }, FOR_ALL)
}
