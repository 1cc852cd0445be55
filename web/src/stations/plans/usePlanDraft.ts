import { Plan, type PlanFigures } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { ApiError } from '../../api/client'
import { shelfKeys } from '../../api/shelves'
import { savePlan } from './useNewPlan'

const SAVE_AFTER_MS = 700
const AGAIN_MS = 3_000

export type PlanDraft = {
  readonly document: PlanDocument
  readonly change: (next: PlanDocument) => void
  readonly saved: boolean
  readonly problem: string | null
  /** The plan as another tab or maker left it, when that stands against this draft. */
  readonly conflict: Plan | null
  readonly takeTheirs: () => void
}

/**
 * A plan being changed: saved by itself a moment after the last change. While the server is silent the draft stays and is tried again;
 * where somebody else has changed the plan, nothing is saved until the maker has chosen.
 */
export function usePlanDraft(plan: Plan, figures: PlanFigures | null, settled: boolean): PlanDraft {
  const client = useQueryClient()
  const [document, setDocument] = useState<PlanDocument>(plan.document as PlanDocument)
  const [revision, setRevision] = useState(plan.revision)
  const [savedText, setSavedText] = useState(() => JSON.stringify([plan.document, plan.figures]))
  const [problem, setProblem] = useState<string | null>(null)
  const [conflict, setConflict] = useState<Plan | null>(null)
  const [attempt, setAttempt] = useState(0)
  const busy = useRef(false)

  const text = JSON.stringify([document, figures])
  const saved = text === savedText
  const latest = useRef({ document, figures, revision, saved, conflict })
  latest.current = { document, figures, revision, saved, conflict }

  useEffect(() => {
    if (saved || conflict || !settled) return
    const timer = setTimeout(() => {
      if (busy.current) return setAttempt((count) => count + 1)
      busy.current = true
      savePlan(plan.id, revision, plan.partId, document, figures)
        .then((stored) => {
          setRevision(stored.revision)
          setSavedText(text)
          setProblem(null)
          client.setQueryData(shelfKeys.one('plans', plan.id), stored)
          void client.invalidateQueries({ queryKey: ['plans', 'list'] })
        })
        .catch((error: Error) => {
          const known = error instanceof ApiError ? error.problem : null
          const current = known?.code === 'STALE' ? Plan.safeParse(known.current) : null
          if (current?.success) return setConflict(current.data)
          setProblem(error.message)
          if (known?.code === 'OFFLINE') setTimeout(() => setAttempt((count) => count + 1), AGAIN_MS)
        })
        .finally(() => (busy.current = false))
    }, SAVE_AFTER_MS)
    return () => clearTimeout(timer)
  }, [saved, conflict, settled, document, figures, revision, text, attempt, plan.id, plan.partId, client])

  // Leaving within the moment before saving must not lose the change.
  useEffect(
    () => () => {
      const last = latest.current
      if (!last.saved && !last.conflict && !busy.current)
        void savePlan(plan.id, last.revision, plan.partId, last.document, last.figures).then(
          (stored) => client.setQueryData(shelfKeys.one('plans', plan.id), stored),
          () => undefined,
        )
    },
    [client, plan.id, plan.partId],
  )

  const takeTheirs = useCallback(() => {
    if (!conflict) return
    setDocument(conflict.document as PlanDocument)
    setRevision(conflict.revision)
    setSavedText(JSON.stringify([conflict.document, conflict.figures]))
    setConflict(null)
  }, [conflict])
  return { document, change: setDocument, saved, problem, conflict, takeTheirs }
}
