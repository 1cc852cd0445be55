import { Part, type PartInput } from '@tender/contract'
import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { ask } from '../../api/client'
import { shelfKeys } from '../../api/shelves'
import { SaveLine } from '../../keep/saveLine'

const SAVE_AFTER_MS = 500

/** What a save sends of a part. */
export const inputOf = ({ name, pose, tags, zones, bodies, olderId }: PartInput): PartInput => ({
  name,
  pose,
  tags,
  zones,
  bodies,
  olderId,
})

/**
 * A part's own fields while they are being changed: every change can be undone, and is saved by itself a
 * moment later.
 */
export function usePartDraft(part: Part) {
  const client = useQueryClient()
  const [draft, setDraft] = useState<PartInput>(() => inputOf(part))
  const [before, setBefore] = useState<readonly PartInput[]>([])
  const [state, setState] = useState<{ savedText: string; problem: string | null; conflict: Part | null }>(
    () => ({ savedText: JSON.stringify(inputOf(part)), problem: null, conflict: null }),
  )
  const [line] = useState(
    () =>
      new SaveLine<PartInput, Part>(
        part.revision,
        (input, revision) =>
          ask(`/parts/${part.id}?revision=${revision}`, Part, { method: 'PUT', body: input }),
        (current) => Part.safeParse(current).data ?? null,
        (told, stored) => {
          setState((earlier) => ({ ...earlier, ...told }))
          if (!stored) return
          client.setQueryData(shelfKeys.one('parts', part.id), stored)
          void client.invalidateQueries({ queryKey: ['parts', 'list'] })
        },
      ),
  )
  const text = JSON.stringify(draft)
  const saved = text === state.savedText
  useEffect(() => {
    if (saved) line.hold()
    else line.want(draft, text, SAVE_AFTER_MS)
  }, [line, saved, draft, text])
  // Leaving within the moment before saving must not lose the change.
  const latest = useRef({ draft, saved })
  latest.current = { draft, saved }
  useEffect(
    () => () => {
      const last = latest.current
      if (!last.saved) line.leave(last.draft, JSON.stringify(last.draft))
    },
    [line],
  )

  const change = useCallback(
    (changes: Partial<PartInput>, goesOn = false) => {
      if (!goesOn) setBefore((all) => [...all.slice(-99), draft])
      setDraft({ ...draft, ...changes })
    },
    [draft],
  )
  const undo = () => {
    const last = before.at(-1)
    if (!last) return
    setBefore((all) => all.slice(0, -1))
    setDraft(last)
  }
  const { conflict } = state
  const takeTheirs = () => {
    if (!conflict) return
    line.goOnFrom(conflict)
    setBefore([])
    setDraft(inputOf(conflict))
    setState({ savedText: JSON.stringify(inputOf(conflict)), problem: null, conflict: null })
  }
  return { draft, change, undo, canUndo: before.length > 0, problem: state.problem, conflict, takeTheirs }
}
export type PartDraft = ReturnType<typeof usePartDraft>
