import { useState } from 'react'
import { Button } from './Button'

const PORTION = 100

/** The first hundred of a long list, and a way to the next: rows are drawn as they are wanted. */
export function usePortion<T>(items: readonly T[]) {
  const [count, setCount] = useState(PORTION)
  const left = items.length - count
  return {
    shown: items.slice(0, count),
    more: left > 0 && (
      <Button onPress={() => setCount((before) => before + PORTION)}>
        Show {Math.min(left, PORTION)} more of {items.length}
      </Button>
    ),
  }
}
