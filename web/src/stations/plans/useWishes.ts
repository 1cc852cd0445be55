import { changePlan, type BenchFacts, type PlanChange, type PlanDocument } from '@tender/core/decide'
import { useCallback, useEffect, useState } from 'react'

/** What was changed without the readings: from where, by what, and what came of it. */
type Early = {
  readonly from: PlanDocument
  readonly wishes: readonly PlanChange[]
  readonly to: PlanDocument
}

/**
 * Changes a plan by the readings. What a maker changes before they are fitted is changed by what the plan
 * remembers of them, and once more by themselves when they are there.
 * @param facts undefined while readings are fitted
 */
export function useWishes(
  document: PlanDocument,
  change: (next: PlanDocument) => void,
  facts: BenchFacts | undefined,
): (wish: PlanChange) => void {
  const [early, setEarly] = useState<Early | null>(null)
  useEffect(() => {
    if (!facts || !early) return
    setEarly(null)
    // What was taken back meanwhile stays so.
    if (early.to === document)
      change(early.wishes.reduce<PlanDocument>((next, wish) => changePlan(next, wish, facts), early.from))
  }, [facts, early, change, document])
  return useCallback(
    (wish) => {
      const to = changePlan(document, wish, facts)
      change(to)
      if (facts) return
      setEarly((before) =>
        before?.to === document
          ? { from: before.from, wishes: [...before.wishes, wish], to }
          : { from: document, wishes: [wish], to },
      )
    },
    [change, document, facts],
  )
}
