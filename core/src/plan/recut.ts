import type { Layer } from '../slice'
import type { Contact, Recut } from './planResult'

/** Heights nearer to the middle of a layer than this may fall on either side of it. */
const TIE_MM = 1e-4

/**
 * What becomes of the gaps when the bodies are cut again by a program that only knows layers of one
 * thickness: it fills a layer where its middle lies inside a body.
 * @param layers of the plan; the thickness is that of its full layers
 */
export function recutsOf(contacts: readonly Contact[], layers: readonly Layer[]): Recut[] {
  const firstMm = layers[0].topMm
  const layerMm = layers.length > 1 ? layers[1].topMm - layers[1].bottomMm : firstMm
  const found = new Map<string, Recut>()
  for (const { layerIndex, achievedGapMm, stack } of contacts) {
    if (achievedGapMm === null) continue
    const zMm = layers[layerIndex].bottomMm
    const topMm = zMm - achievedGapMm
    // Underside: the plan's own layers, which are cut the same way. Support: layers whose middle lies below
    // its top.
    const below = (heightMm: number, slack: number) =>
      heightMm <= firstMm / 2 - slack ? 0 : 1 + Math.floor((heightMm + slack - firstMm) / layerMm + 0.5)
    const boundary = (count: number) => (count <= 0 ? 0 : firstMm + (count - 1) * layerMm)
    const [least, most] = [-TIE_MM, TIE_MM].map((slack) => zMm - boundary(below(topMm, slack)))
    const touching = stack.filter(({ role }) => role === 'interface')
    const bottomMm = touching[0]?.bottomMm ?? topMm
    const interfaceLayers = Math.max(0, below(topMm, -TIE_MM) - below(bottomMm, TIE_MM))
    const key = [achievedGapMm.toFixed(4), most.toFixed(4), least.toFixed(4), interfaceLayers].join()
    if (!found.has(key))
      found.set(key, {
        layerMm,
        gapMm: achievedGapMm,
        becomesMm: most,
        orMm: Math.abs(least - most) > TIE_MM ? least : null,
        plannedLayers: touching.length,
        interfaceLayers,
      })
  }
  return [...found.values()]
}
