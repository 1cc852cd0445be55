import { Plan, type PlanFigures } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { hashKey, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { shelfKeys } from '../../api/shelves'
import { SaveLine } from '../../keep/saveLine'
import { savePlan } from './useNewPlan'
import { usePast, type Past } from './usePast'

const SAVE_AFTER_MS = 700

export type PlanDraft = Past & {
  readonly document: PlanDocument
  readonly change: (next: PlanDocument) => void
  readonly saved: boolean
  readonly problem: string | null
  /** The plan as another tab or maker left it, when that stands against this draft. */
  readonly conflict: Plan | null
  readonly takeTheirs: () => void
}

type Saved = { readonly document: PlanDocument; readonly figures: PlanFigures | null }
const textOf = ({ document, figures }: Saved) => JSON.stringify([document, figures])

/**
 * A plan being changed: saved by itself a moment after the last change, together with the short figures of
 * its numbers.
 * @param settled whether the figures are those of the document
 */
export function usePlanDraft(plan: Plan, figures: PlanFigures | null, settled: boolean): PlanDraft {
  const client = useQueryClient()
  const { now: document, change, restart, undo, redo } = usePast<PlanDocument>(plan.document)
  const [state, setState] = useState<{ savedText: string; problem: string | null; conflict: Plan | null }>(
    () => ({ savedText: textOf(plan), problem: null, conflict: null }),
  )
  /** The document as the server last had it, as far as is known here. */
  const seen = useRef('')
  seen.current ||= hashKey([plan.document])
  const [line] = useState(
    () =>
      new SaveLine<Saved, Plan>(
        plan.revision,
        (value, revision) => savePlan(plan.id, revision, plan.partId, value.document, value.figures),
        (current) => Plan.safeParse(current).data ?? null,
        (told, stored) => {
          setState((before) => ({ ...before, ...told }))
          if (!stored) return
          seen.current = hashKey([stored.document])
          client.setQueryData(shelfKeys.one('plans', plan.id), stored)
          void client.invalidateQueries({ queryKey: ['plans', 'list'] })
        },
        // Another tab that only worked out the same numbers has changed nothing.
        ({ document: theirs }) => hashKey([theirs]) !== seen.current,
      ),
  )
  const text = textOf({ document, figures })
  const saved = text === state.savedText
  useEffect(() => {
    if (saved || !settled) line.hold()
    else line.want({ document, figures }, text, SAVE_AFTER_MS)
  }, [line, saved, settled, document, figures, text])

  // Leaving within the moment before saving must not lose the change.
  const latest = useRef({ document, figures, saved })
  latest.current = { document, figures, saved }
  useEffect(
    () => () => {
      if (!latest.current.saved) line.leave(latest.current, textOf(latest.current))
    },
    [line],
  )

  const { conflict } = state
  const takeTheirs = useCallback(() => {
    if (!conflict) return
    line.goOnFrom(conflict)
    seen.current = hashKey([conflict.document])
    restart(conflict.document)
    setState({ savedText: textOf(conflict), problem: null, conflict: null })
  }, [line, conflict, restart])
  return { document, change, undo, redo, saved, problem: state.problem, conflict, takeTheirs }
}
