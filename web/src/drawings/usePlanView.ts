import { useEffect, useState } from 'react'

/**
 * Fetches a drawing from the worker whenever the plan or the question changes; keeps the last one meanwhile.
 */
export function usePlanView<T>(fetchView: () => Promise<T | null>, keys: readonly unknown[]): T | null {
  const [view, setView] = useState<T | null>(null)
  useEffect(() => {
    let live = true
    void fetchView().then((next) => live && next && setView(next))
    return () => {
      live = false
    }
    // The question is told by its keys; the function is made anew at each rendering.
    // oxlint-disable-next-line react/exhaustive-deps
  }, keys)
  return view
}
