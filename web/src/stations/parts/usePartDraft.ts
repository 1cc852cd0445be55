import type { Part, PartInput } from '@tender/contract'
import { useCallback, useEffect, useRef, useState } from 'react'
import { useSave } from '../../api/useShelf'

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

/** A part's own fields while they are being changed: every change can be undone, and is saved by itself a moment later. */
export function usePartDraft(part: Part) {
  const [draft, setDraft] = useState<PartInput>(() => inputOf(part))
  const [before, setBefore] = useState<readonly PartInput[]>([])
  const [touched, setTouched] = useState(0)
  const save = useSave('parts')
  const revision = useRef(part.revision)
  const { mutate } = save

  /** What still waits to be saved. */
  const waiting = useRef<PartInput | null>(null)

  useEffect(() => {
    if (touched === 0) return
    waiting.current = draft
    const timer = setTimeout(() => {
      waiting.current = null
      mutate(
        { id: part.id, revision: revision.current, input: draft },
        { onSuccess: (saved) => (revision.current = saved.revision) },
      )
    }, SAVE_AFTER_MS)
    return () => clearTimeout(timer)
  }, [touched, draft, mutate, part.id])
  // Leaving within the moment before saving must not lose the change.
  useEffect(
    () => () => {
      if (waiting.current) mutate({ id: part.id, revision: revision.current, input: waiting.current })
    },
    [mutate, part.id],
  )

  const change = useCallback(
    (changes: Partial<PartInput>, goesOn = false) => {
      if (!goesOn) setBefore((all) => [...all.slice(-99), draft])
      setDraft({ ...draft, ...changes })
      setTouched((count) => count + 1)
    },
    [draft],
  )
  const undo = () => {
    const last = before.at(-1)
    if (!last) return
    setBefore((all) => all.slice(0, -1))
    setDraft(last)
    // Putting back is a change too, so that it is saved.
    setTouched((count) => count + 1)
  }
  return { draft, change, undo, canUndo: before.length > 0, error: save.error }
}
export type PartDraft = ReturnType<typeof usePartDraft>
