import { useCallback, useEffect, useRef, useState } from 'react'
import { useNavigationType, useSearchParams } from 'react-router'

type Values = Readonly<Record<string, string>>

/**
 * What a view shows, kept in the address. The view itself follows at once and the address a moment later: the
 * router takes its time, and keys pressed in quick succession must each build on the one before.
 */
export function useAddressState(): readonly [Values, (changes: Values) => void] {
  const [params, setParams] = useSearchParams()
  const moved = useNavigationType() === 'POP'
  const [values, setValues] = useState<Values>(() => Object.fromEntries(params))
  const latest = useRef(values)
  const set = useCallback(
    (changes: Values) => {
      latest.current = { ...latest.current, ...changes }
      setValues(latest.current)
      setParams(latest.current, { replace: true })
    },
    [setParams],
  )
  // Back and forward, and addresses typed by hand, come from outside.
  const outside = moved ? params.toString() : null
  useEffect(() => {
    if (outside === null) return
    latest.current = Object.fromEntries(new URLSearchParams(outside))
    setValues(latest.current)
  }, [outside])
  return [values, set]
}
