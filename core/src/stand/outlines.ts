import type { Layer } from '../slice'
import { EMPTY_REGION, type Region, type RememberingEngine } from '../polygon'
import { PATH_TOLERANCE_MM } from '../tolerances'

/**
 * Largest distance between a round corner and the polygon drawn for it when outlines are grown by a side gap.
 */
const ARC_MM = 0.008

/**
 * The part's outlines as supports need them: as coarse as paths may be, and grown, each made when it is first
 * asked for.
 */
export type Outlines = {
  readonly count: number
  /** Outline of a layer; empty above and below the part. */
  at(level: number): Region
  grown(level: number, byMm: number): Region
}

/** Equal layers share one outline, and one growth of it. */
export function outlinesOf(layers: readonly Layer[], engine: RememberingEngine): Outlines {
  const coarse: Region[] = []
  const at = (level: number): Region => {
    if (level < 0 || level >= layers.length) return EMPTY_REGION
    if (coarse[level]) return coarse[level]
    const { region } = layers[level]
    const neighbour = [level - 1, level + 1].find(
      (other) => layers[other]?.region === region && coarse[other],
    )
    return (coarse[level] =
      neighbour === undefined ? engine.fewer(region, PATH_TOLERANCE_MM) : coarse[neighbour])
  }
  return {
    count: layers.length,
    at,
    grown: (level, byMm) => engine.grow(at(level), byMm, 'round', ARC_MM),
  }
}
