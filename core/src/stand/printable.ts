import {
  EMPTY_REGION,
  isEmptyRegion,
  regionPerimeterMm,
  ringCount,
  type Region,
  type RememberingEngine,
} from '../polygon'

/**
 * Corners may stray this far from round; the same as where rings are laid, so that the same question is asked
 * once.
 */
const ARC_MM = 0.01
/** A hair beyond half a line, so that corners of what is kept are kept whole. */
const HAIR_MM = 0.005

export type Printable = {
  /** What of a region can hold a line. */
  readonly kept: Region
  /** What is narrower. */
  readonly slivers: Region
}

/** Regions known to hold a line of this width everywhere. */
const whole = new WeakMap<Region, number>()

/** Divides a region into what can hold a line and what is narrower than one. */
export function printable(region: Region, lineWidthMm: number, engine: RememberingEngine): Printable {
  if (isEmptyRegion(region) || whole.get(region) === lineWidthMm)
    return { kept: region, slivers: EMPTY_REGION }
  const half = lineWidthMm / 2
  const rim = engine.grow(region, -half, 'miter', ARC_MM)
  if (isEmptyRegion(rim)) return { kept: EMPTY_REGION, slivers: region }
  // What shrinks away takes its outline with it; corners alone take no more than this.
  const lost = regionPerimeterMm(region) - regionPerimeterMm(rim)
  if (ringCount(rim) === ringCount(region) && lost <= 8 * half * ringCount(region) + half)
    return { kept: region, slivers: EMPTY_REGION }
  const opened = engine.grow(rim, half + HAIR_MM, 'miter', ARC_MM)
  const slivers = engine.minus(region, opened)
  if (isEmptyRegion(slivers)) return { kept: region, slivers }
  const kept = engine.minus(region, slivers)
  whole.set(kept, lineWidthMm)
  // What was narrower is not in the rim of the whole either: the rim of what is kept is the same.
  engine.tellGrown(kept, -half, 'miter', ARC_MM, rim)
  return { kept, slivers }
}
