import type { PlanDocument } from '@tender/core/decide'
import { keptQuestions, type LastKept } from '@tender/contract'
import { keptId, type Cuttable, type KeptOutcome, type Outcome, type StageName } from '@tender/core/plan'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { unwrap, WorkError } from './answer'
import { planning, proxy } from './geometry'
import { keepAnswer, keptAnswer, keyOf, lastAnswer } from './keptAnswers'
import { nextTicket } from './tickets'
import { Told } from './told'

export type Working = { readonly stage: StageName; readonly share: number; readonly sinceMs: number }
export const NOT_BEGUN: Working = { stage: 'slice', share: 0, sinceMs: 0 }

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
 * What was kept of a plan that is being opened; null where nothing was, undefined until that is known. A plan
 * that one browser has worked out opens at once in the next, be it a phone beside the printer.
 * @param mesh by its hash
 * @param last what was last kept: undefined while that is waited for
 */
export function useKeptOutcome(
  plan: string,
  mesh: string,
  document: PlanDocument | undefined,
  last: LastKept | undefined,
): KeptOutcome | null | undefined {
  const [kept, setKept] = useState<KeptOutcome | null>()
  // What is looked for is what is opened, not what it becomes.
  const isOpen = kept !== undefined
  const asked = !isOpen && document ? keptQuestions.plan(mesh, document) : undefined
  const told = useMemo(
    () => (asked && last ? lastAnswer<KeptOutcome>(last, plan, asked) : undefined),
    [asked, last, plan],
  )
  if (told) setKept(told)
  useEffect(() => {
    if (asked === undefined || told !== null) return
    let live = true
    void keptAnswer<KeptOutcome>(keyOf(asked), plan)
      .catch(() => null)
      .then((found) => live && setKept(found))
    return () => {
      live = false
    }
  }, [asked, told, plan])
  return kept
}

/**
 * Keeps the numbers of a document up to date in the worker.
 * @param opened the plan, its mesh by hash, and what was kept of it: shown until it is worked out again
 */
export function usePlanOutcome(
  meshKey: string | undefined,
  document: PlanDocument,
  opened?: { readonly plan: string; readonly mesh: string; readonly kept: KeptOutcome | null },
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
  /** What is not begun: it was stopped before it could be. */
  const halted = useRef<string | null>(null)
  const newest = useRef(document)
  newest.current = document
  const asked = keptQuestions.plan(opened?.mesh ?? '', document)
  const plan = opened?.plan

  useEffect(() => {
    if (!meshKey || asked === halted.current) return
    halted.current = null
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
    unwrap(planning().plan(ticket, meshKey, newest.current, onProgress, onShapes))
      .then((outcome) => {
        if (!live) return
        isFirst.current = false
        setState((before) => ({ outcome, version: before.version + 1, error: null, stopped: false }))
        if (plan) setTimeout(() => live && void keepSoon(plan, asked, outcome), KEEP_AFTER_MS)
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
  }, [meshKey, asked, attempt, plan, progress])

  const cancel = useCallback(() => {
    if (meshKey) return void planning().cancel()
    halted.current = asked
    setState((before) => ({ ...before, stopped: true }))
  }, [meshKey, asked])
  const retry = useCallback(() => {
    halted.current = null
    setState((before) => ({ ...before, stopped: false }))
    setAttempt((count) => count + 1)
  }, [])
  // What was kept is shown, but is no result to go on from.
  const onlyKept = state.outcome?.sections !== undefined && !state.error && !state.stopped
  return { ...state, early, working: working || onlyKept, progress, cancel, retry }
}

/** A plan is kept once it has stood for a while: not every step of a key. */
const KEEP_AFTER_MS = 1500

async function keepSoon(plan: string, asked: string, outcome: Outcome): Promise<void> {
  const key = keyOf(asked)
  const [across, along] = [
    await planning().section(outcome.id, 0, 0),
    await planning().section(outcome.id, 90, 0),
  ]
  if (across && along)
    await keepAnswer(key, { ...outcome, id: keptId(key), sections: { 0: across, 90: along } }, plan)
}
