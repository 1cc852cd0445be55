import { useEffect } from 'react'

/** The height looked at, kept in the address and within the part. */
export type Height = {
  readonly zMm: number
  readonly topMm: number
  readonly layerMm: number
  readonly setZ: (zMm: number) => void
}

/** The height at which the part is cut, mm; where `keys`, [ and ] go down and up by a layer. */
export function useHeight({
  typed,
  topMm,
  layerMm,
  keys,
  setAddress,
}: {
  readonly typed: string | undefined
  readonly topMm: number
  readonly layerMm: number
  readonly keys: boolean
  readonly setAddress: (changes: Record<string, string>) => void
}): Height {
  const within = (z: number) => Math.min(Math.max(0, z), topMm)
  const zMm = within(Number(typed ?? topMm / 2) || 0)
  useEffect(() => {
    if (!keys) return
    const onKey = (event: KeyboardEvent) => {
      if (
        (event.key !== '[' && event.key !== ']') ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        (event.target as HTMLElement).closest('input, textarea, [role=dialog]')
      )
        return
      event.preventDefault()
      const next = zMm + (event.key === ']' ? layerMm : -layerMm)
      setAddress({ z: Math.min(Math.max(0, next), topMm).toFixed(2) })
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [keys, zMm, layerMm, topMm, setAddress])
  return { zMm, topMm, layerMm, setZ: (z) => setAddress({ z: within(z).toFixed(2) }) }
}
