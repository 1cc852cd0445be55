import { isEmptyRegion, regionAreaMm2, type Region } from '../polygon'
import type { Filled } from './standCells'

/** A part in slices of one height. */
export type Slices = {
  /** What each shows: the layer in its middle, or a plate nearby; null for nothing. */
  readonly seen: readonly (Region | null)[]
  /** The height at which each shows it: in its middle, or in that of such a plate. */
  readonly heightMm: Float64Array
  /** The layer that its middle lies in, or the next one. */
  readonly layerOf: Int32Array
  /** 1 for a plate that no other slice shows. */
  readonly thin: Uint8Array
}

/** A layer with so much more than the slices around it is a plate of its own. */
const PLATE_MM2 = 1

/**
 * What of the part each slice shows: the layer in its middle, or one nearby that has more than those around
 * it, a plate that would be passed over.
 * @param under slices below the bed; fewer than none where they begin above it
 */
export function slicesOf(layers: readonly Filled[], riseMm: number, count: number, under: number): Slices {
  const seen: (Region | null)[] = []
  const layerOf = new Int32Array(count)
  const thin = new Uint8Array(count)
  const heightMm = Float64Array.from({ length: count }, (_, k) => (k - under + 0.5) * riseMm)
  const areas = layers.map(({ region }) => regionAreaMm2(region))
  const middles = new Float64Array(count)
  let layer = 0
  for (let k = 0; k < count; k++) {
    const height = heightMm[k]
    while (layer < layers.length && layers[layer].topMm <= height) layer++
    layerOf[k] = Math.min(layer, layers.length - 1)
    const own = layers[layer]
    const isThere = own && own.bottomMm <= height && !isEmptyRegion(own.region)
    seen.push(isThere ? own.region : null)
    middles[k] = isThere ? areas[layer] : 0
  }
  for (let k = 1; k + 1 < count; k++)
    if (middles[k] > Math.max(middles[k - 1], middles[k + 1]) + PLATE_MM2) thin[k] = 1
  layers.forEach(({ bottomMm, topMm, region }, n) => {
    const k = Math.floor((bottomMm + topMm) / 2 / riseMm) + under
    if (areas[n] === 0 || k < 0 || k >= count) return
    const around = Math.max(middles[k - 1] ?? 0, middles[k], middles[k + 1] ?? 0)
    if (areas[n] < around + PLATE_MM2 || (thin[k] && areas[n] <= regionAreaMm2(seen[k]!))) return
    seen[k] = region
    heightMm[k] = (bottomMm + topMm) / 2
    thin[k] = 1
  })
  return { seen, heightMm, layerOf, thin }
}

/**
 * What lies between each slice and the next and is shown by neither: plates, and walls that lean past both.
 * Each region once.
 */
export function unseenBetween(layers: readonly Filled[], { seen, heightMm }: Slices): Region[][] {
  const found = Array.from({ length: Math.max(0, seen.length - 1) }, () => new Set<Region>())
  let k = 0
  for (const { bottomMm, topMm, region } of layers) {
    if (isEmptyRegion(region)) continue
    while (k + 1 < found.length && heightMm[k + 1] <= bottomMm) k++
    for (let n = k; n < found.length && heightMm[n] < topMm; n++)
      if (heightMm[n + 1] > bottomMm && region !== seen[n] && region !== seen[n + 1]) found[n].add(region)
  }
  return found.map((regions) => [...regions])
}
