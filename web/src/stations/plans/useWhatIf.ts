import type { PlanDocument } from '@tender/core/decide'
import type { PlanSummary } from '@tender/core/plan'
import type { ReleaseCheck } from '@tender/core/release'
import { useEffect, useState } from 'react'
import { unwrap } from '../../workers/answer'
import { planning } from '../../workers/geometry'

/** The numbers of a plan that is only being thought about, and how its stands come off once that is known. */
export type Thought = PlanSummary & { readonly release?: ReleaseCheck | null }

/**
 * Numbers of documents that are only being thought about, one after the other; null where there are none yet.
 * @param released whether to find out how their stands come off as well, when all have their numbers
 */
export function useWhatIf(
  meshKey: string | undefined,
  documents: readonly PlanDocument[],
  ready: boolean,
  released = true,
): readonly (Thought | null)[] {
  const key = JSON.stringify(documents)
  const [found, setFound] = useState<{ key: string; summaries: (Thought | null)[] }>({
    key: '',
    summaries: [],
  })
  useEffect(() => {
    if (!meshKey || !ready) return
    let live = true
    void (async () => {
      const summaries: (Thought | null)[] = documents.map(() => null)
      for (let i = 0; i < documents.length && live; i++) {
        // A thought that cannot be planned simply stays without numbers.
        summaries[i] = await unwrap(planning().whatIf(meshKey, documents[i])).catch(() => null)
        if (live) setFound({ key, summaries: [...summaries] })
      }
      for (let i = 0; i < documents.length && live && released; i++) {
        const numbers = summaries[i]
        if (!numbers) continue
        const release = await unwrap(planning().whatIfReleased(meshKey, documents[i])).catch(() => null)
        summaries[i] = { ...numbers, release }
        if (live) setFound({ key, summaries: [...summaries] })
      }
    })()
    return () => {
      live = false
    }
    // oxlint-disable-next-line react/exhaustive-deps -- the documents are told by their key
  }, [meshKey, key, ready, released])
  return found.key === key ? found.summaries : documents.map(() => null)
}
