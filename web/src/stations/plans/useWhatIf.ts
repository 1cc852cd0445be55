import type { PlanDocument } from '@tender/core/decide'
import type { PlanSummary } from '@tender/core/plan'
import { useEffect, useState } from 'react'
import { unwrap } from '../../workers/answer'
import { planning } from '../../workers/geometry'

/**
 * Numbers of documents that are only being thought about, one after the other; null where there are none yet.
 */
export function useWhatIf(
  meshKey: string | undefined,
  documents: readonly PlanDocument[],
  ready: boolean,
): readonly (PlanSummary | null)[] {
  const key = JSON.stringify(documents)
  const [found, setFound] = useState<{ key: string; summaries: (PlanSummary | null)[] }>({
    key: '',
    summaries: [],
  })
  useEffect(() => {
    if (!meshKey || !ready) return
    let live = true
    void (async () => {
      const summaries: (PlanSummary | null)[] = documents.map(() => null)
      for (let i = 0; i < documents.length && live; i++) {
        // A thought that cannot be planned simply stays without numbers.
        summaries[i] = await unwrap(planning.whatIf(meshKey, documents[i])).catch(() => null)
        if (live) setFound({ key, summaries: [...summaries] })
      }
    })()
    return () => {
      live = false
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the documents are told by their key
  }, [meshKey, key, ready])
  return found.key === key ? found.summaries : documents.map(() => null)
}
