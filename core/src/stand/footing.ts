import { EMPTY_REGION, isEmptyRegion, type PolygonEngine, type Region } from '../polygon'
import type { SupportPass } from './supports'

/**
 * Extra lines around everything of a kind that stands on the bed, so that it holds on: around stands a
 * footing, around the part a brim.
 * @param on what stands on the bed
 * @param lines how many
 * @param keepOff what the lines must not run into, gaps included
 */
export function ringsAround(
  role: 'footing' | 'brim',
  on: Region,
  lines: number,
  lineWidthMm: number,
  keepOff: readonly Region[],
  firstMm: number,
  holding: number,
  engine: PolygonEngine,
): SupportPass | null {
  if (lines === 0 || isEmptyRegion(on)) return null
  const around = engine.minusAll([engine.grow(on, lines * lineWidthMm, 'round', 0.01)], [on, ...keepOff])
  const region = isEmptyRegion(around) ? EMPTY_REGION : around
  return isEmptyRegion(region)
    ? null
    : { role, fill: 'rings', holding, bottomMm: 0, topMm: firstMm, region, facesLayer: 1 }
}
