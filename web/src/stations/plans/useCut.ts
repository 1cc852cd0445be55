import type { PlanSummary } from '@tender/core/plan'
import { useCallback, useEffect, useMemo } from 'react'
import { useAddressState } from '../../ui/useAddressState'

export type Cut = ReturnType<typeof useCut>

/** Where the drawings are cut and which underside is looked at, kept in the address; moved by [ ] and { }. */
export function useCut(summary: PlanSummary | null, layerHeightMm: number, firstLayerHeightMm: number) {
  const [address, set] = useAddressState()
  const top = summary?.heightMm ?? 0
  const contacts = summary?.contacts ?? []
  const contact = Math.min(
    Math.max(0, Number(address.contact ?? 1) - 1 || 0),
    Math.max(0, contacts.length - 1),
  )
  const number = Number(address.z)
  const zMm = Number.isFinite(number)
    ? Math.min(Math.max(0, number), top || number)
    : (contacts[contact]?.zMm ?? top / 2)
  const layers = summary?.layers ?? 1
  const layer = Math.min(
    layers,
    Math.max(
      1,
      zMm <= firstLayerHeightMm ? 1 : 1 + Math.ceil((zMm - firstLayerHeightMm) / layerHeightMm - 1e-6),
    ),
  )

  const setZ = useCallback((z: number) => set({ z: z.toFixed(2) }), [set])
  const toLayer = useCallback(
    (index: number) => {
      const at = Math.min(layers, Math.max(1, index))
      setZ(at === 1 ? firstLayerHeightMm / 2 : firstLayerHeightMm + (at - 1.5) * layerHeightMm)
    },
    [layers, setZ, firstLayerHeightMm, layerHeightMm],
  )
  const step = useCallback((by: number) => toLayer(layer + by), [toLayer, layer])

  const events = useMemo(() => {
    if (!summary) return []
    const swaps = [...summary.ribbon.swaps].flatMap((count, i) => (count > 0 ? [summary.ribbon.zMm[i]] : []))
    return [
      ...new Set(
        [...summary.islands.map((one) => one.zMm), ...summary.contacts.map((one) => one.zMm), ...swaps].map(
          (z) => z.toFixed(2),
        ),
      ),
    ]
      .map(Number)
      .toSorted((a, b) => a - b)
  }, [summary])

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        (event.target as HTMLElement).closest('input, textarea, [role=dialog], [role=menu], [role=listbox]')
      )
        return
      if (event.key === '[') step(-1)
      else if (event.key === ']') step(1)
      else if (event.key === '{') setZ(events.findLast((z) => z < zMm - 0.005) ?? events[0] ?? 0)
      else if (event.key === '}') setZ(events.find((z) => z > zMm + 0.005) ?? events.at(-1) ?? top)
      else return
      event.preventDefault()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [step, setZ, events, zMm, top])

  return {
    zMm,
    layer,
    contact,
    view: address.view === 'layer' || address.view === 'space' ? address.view : ('section' as const),
    axis: address.along === 'y' ? ('y' as const) : ('x' as const),
    /** Where the upright cut stands; by default through the middle of the part. */
    atMm: Number(address.at ?? 0) || 0,
    lines: address.lines === '1',
    setZ,
    step,
    set,
    selectContact: (index: number) =>
      set({ contact: String(index + 1), z: (contacts[index].zMm + 0.01).toFixed(2) }),
    /** Cuts through a place: the section across at its depth, the layer at its height. */
    goTo: ([x, y, z]: readonly [number, number, number]) =>
      set({ z: z.toFixed(2), at: (address.along === 'y' ? x : y).toFixed(1) }),
    selectIsland: (index: number) => {
      const island = summary?.islands[index]
      if (island) set({ z: (island.zMm + 0.05).toFixed(2), view: 'layer' })
    },
  }
}
