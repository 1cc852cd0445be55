import { useSyncExternalStore } from 'react'

/** Whether a condition of a media rule holds, now and whenever that changes. */
export function useMedia(condition: string): boolean {
  return useSyncExternalStore(
    (changed) => {
      const list = window.matchMedia(condition)
      list.addEventListener('change', changed)
      return () => list.removeEventListener('change', changed)
    },
    () => window.matchMedia(condition).matches,
  )
}
