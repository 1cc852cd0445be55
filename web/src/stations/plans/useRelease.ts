import type { PlanDocument } from '@tender/core/decide'
import type { PlanRelease } from '@tender/core/plan'
import { useEffect, useState } from 'react'
import { unwrap } from '../../workers/answer'
import { planning, proxy } from '../../workers/geometry'
import { Told } from '../../workers/told'

/** How far the check of a result is, or what became of it. */
export type Release =
  | { readonly share: Told<number> }
  | { readonly check: PlanRelease }
  /** It can be asked for once more. */
  | { readonly again: () => void }

/**
 * How the stands of a finished result come off; null without one. The plan never waits for it.
 */
export function useRelease(id: string | undefined, document: PlanDocument): Release | null {
  const [found, setFound] = useState<{ readonly id: string; readonly release: Release } | null>(null)
  const [asked, setAsked] = useState(0)
  const [looking] = useState(() => ({ share: new Told(0) }))
  useEffect(() => {
    if (id === undefined) return
    let live = true
    looking.share.tell(0)
    const set = (release: Release) => live && setFound({ id, release })
    const failed = () =>
      set({
        again() {
          setFound(null)
          setAsked((before) => before + 1)
        },
      })
    const onShare = proxy((share: number) => live && looking.share.tell(share))
    unwrap(planning().release(id, document, onShare))
      .then((check) => (check ? set({ check }) : failed()))
      .catch(failed)
    return () => {
      live = false
    }
    // oxlint-disable-next-line react/exhaustive-deps -- a result belongs to one document
  }, [id, asked, looking])
  if (id === undefined) return null
  return found?.id === id ? found.release : looking
}
