import type { PlanDocument } from '@tender/core/decide'
import { readingOf, readsOf, type StageName } from '@tender/core/plan'
import { useEffect, useRef, useState } from 'react'
import { unwrap, WorkError } from './answer'
import { planning, proxy } from './geometry'
import type { NeedsReport } from './partWork'
import { nextTicket } from './tickets'
import { Told } from './told'
import { NOT_BEGUN } from './usePlanOutcome'

/** Everything of a document that decides what needs holding. */
const READS = [...readsOf('overhang')]

/** What of a part needs holding, kept up to date in the worker with pose, limits and zones. */
export function useNeeds(meshKey: string | undefined, document: PlanDocument) {
  const [state, setState] = useState<{ needs: NeedsReport | null; version: number; error: Error | null }>({
    needs: null,
    version: 0,
    error: null,
  })
  const [working, setWorking] = useState(false)
  const [progress] = useState(() => new Told(NOT_BEGUN))
  const newest = useRef(document)
  newest.current = document
  const reading = readingOf(document)
  const asked = JSON.stringify(READS.map((read) => reading[read]))
  useEffect(() => {
    if (!meshKey) return
    const startedAt = performance.now()
    let live = true
    let done = false
    // A part that is being turned would otherwise be sliced at every step.
    const timer = setTimeout(() => {
      const onProgress = proxy((stage: StageName, share: number) => {
        if (!live || done) return
        progress.tell({ stage, share, sinceMs: performance.now() - startedAt })
        setWorking(true)
      })
      unwrap(planning().needs(nextTicket(), meshKey, newest.current, onProgress))
        .then((needs) => live && setState((before) => ({ needs, version: before.version + 1, error: null })))
        .catch((error: Error) => {
          if (live && !(error instanceof WorkError && error.code === 'STOPPED'))
            setState((before) => ({ ...before, error }))
        })
        .finally(() => {
          done = true
          if (live) setWorking(false)
        })
    }, 120)
    return () => {
      live = false
      clearTimeout(timer)
    }
  }, [meshKey, asked, progress])
  return { ...state, working, progress }
}
export type NeedsOutcome = ReturnType<typeof useNeeds>
