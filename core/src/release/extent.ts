import { boundsOf, isEmptyRegion } from '../polygon'
import type { Filled } from './standCells'

/** What layers take up: from one corner to the opposite one. */
export type Extent = {
  readonly fromMm: readonly [number, number, number]
  readonly toMm: readonly [number, number, number]
}

/** From the bed to the top of the highest layer with anything in it; nothing where there is none. */
export function extentOf(layers: readonly Filled[]): Extent {
  let [minX, minY, maxX, maxY, topMm] = [Infinity, Infinity, -Infinity, -Infinity, 0]
  for (const { region, topMm: top } of layers) {
    if (isEmptyRegion(region)) continue
    const box = boundsOf(region.xyMm)
    minX = Math.min(minX, box.minX)
    minY = Math.min(minY, box.minY)
    maxX = Math.max(maxX, box.maxX)
    maxY = Math.max(maxY, box.maxY)
    topMm = Math.max(topMm, top)
  }
  return topMm > 0
    ? { fromMm: [minX, minY, 0], toMm: [maxX, maxY, topMm] }
    : { fromMm: [0, 0, 0], toMm: [0, 0, 0] }
}
