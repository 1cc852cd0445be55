import { boundsAround, boundsOf, isEmptyRegion } from '../polygon'
import type { Filled } from './standCells'

/** What layers take up: from one corner to the opposite one. */
export type Extent = {
  readonly fromMm: readonly [number, number, number]
  readonly toMm: readonly [number, number, number]
}

/** From the bed to the top of the highest layer with anything in it; nothing where there is none. */
export function extentOf(layers: readonly Filled[]): Extent {
  const filled = layers.filter(({ region }) => !isEmptyRegion(region))
  if (filled.length === 0) return { fromMm: [0, 0, 0], toMm: [0, 0, 0] }
  const { minX, minY, maxX, maxY } = boundsAround(filled.map(({ region }) => boundsOf(region.xyMm)))
  const topMm = filled.reduce((top, layer) => Math.max(top, layer.topMm), 0)
  return { fromMm: [minX, minY, 0], toMm: [maxX, maxY, topMm] }
}
