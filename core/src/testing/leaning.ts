import type { PlanResult } from '../plan'
import { isEmptyRegion, type PolygonEngine, type Region } from '../polygon'
import { radians } from '../units'

type Slab = { readonly bottomMm: number; readonly topMm: number; readonly regions: Region[] }

/**
 * Heights at which supports reach out beyond what ends right below them by more than a lean, plus 0.01 mm;
 * read from the passes alone. Supports that may begin on the part reach out wherever they do.
 */
export function leansTooFarAt(
  { geometry }: Pick<PlanResult, 'geometry'>,
  leanDeg: number,
  engine: PolygonEngine,
): number[] {
  const slabs = new Map<string, Slab>()
  for (const { role, bottomMm, topMm, region } of geometry.passes) {
    if (role !== 'stand' && role !== 'interface') continue
    const key = `${bottomMm.toFixed(4)} ${topMm.toFixed(4)}`
    const known = slabs.get(key)
    if (known) known.regions.push(region)
    else slabs.set(key, { bottomMm, topMm, regions: [region] })
  }
  const all = [...slabs.values()]
  const tooFar = all.filter(({ bottomMm, topMm, regions }) => {
    if (bottomMm < 0.001) return false
    const below = all.filter((slab) => Math.abs(slab.topMm - bottomMm) < 0.001)
    const stepMm = (topMm - bottomMm) * Math.tan(radians(leanDeg)) + 0.01
    const carried = engine.grow(
      engine.union(...below.flatMap((slab) => slab.regions)),
      stepMm,
      'round',
      0.002,
    )
    // What is thinner than this comes from outlines that were thinned.
    return !isEmptyRegion(engine.grow(engine.minus(engine.union(...regions), carried), -0.01, 'miter'))
  })
  return tooFar.map(({ bottomMm }) => bottomMm).sort((a, b) => a - b)
}
