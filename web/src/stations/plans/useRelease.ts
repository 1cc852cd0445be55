import type { PlanDocument } from '@tender/core/decide'
import type { ReleaseCheck } from '@tender/core/release'
import { useEffect, useState } from 'react'
import { unwrap } from '../../workers/answer'
import { planning } from '../../workers/geometry'

/**
 * How the stands of a finished result come off; null while that is being worked out. The plan never waits for
 * it.
 */
export function useRelease(id: string | undefined, document: PlanDocument): ReleaseCheck | null {
  const [found, setFound] = useState<{ id: string; check: ReleaseCheck | null } | null>(null)
  useEffect(() => {
    if (id === undefined) return
    let live = true
    unwrap(planning.release(id, document))
      .then((check) => live && setFound({ id, check }))
      .catch(() => live && setFound({ id, check: null }))
    return () => {
      live = false
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a result belongs to one document
  }, [id])
  return found && found.id === id ? found.check : null
}
