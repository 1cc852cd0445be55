import type { PlanDocument } from '@tender/core/decide'
import type { ReleaseCheck } from '@tender/core/release'
import { useEffect, useState } from 'react'
import { unwrap } from '../../workers/answer'
import { planning, proxy } from '../../workers/geometry'

/** How far the check of a result is, or what became of it. */
export type Release =
  { readonly share: number } | { readonly check: ReleaseCheck } | { readonly failed: true }

/**
 * How the stands of a finished result come off; null without one. The plan never waits for it.
 */
export function useRelease(id: string | undefined, document: PlanDocument): Release | null {
  const [found, setFound] = useState<{ readonly id: string; readonly release: Release } | null>(null)
  useEffect(() => {
    if (id === undefined) return
    let live = true
    const set = (release: Release) => live && setFound({ id, release })
    const onShare = proxy((share: number) => {
      // Progress comes by a port of its own and may arrive after the answer.
      setFound((before) =>
        live && (before?.id !== id || 'share' in before.release) ? { id, release: { share } } : before,
      )
    })
    unwrap(planning.release(id, document, onShare))
      .then((check) => set(check ? { check } : { failed: true }))
      .catch(() => set({ failed: true }))
    return () => {
      live = false
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a result belongs to one document
  }, [id])
  if (id === undefined) return null
  return found?.id === id ? found.release : { share: 0 }
}
