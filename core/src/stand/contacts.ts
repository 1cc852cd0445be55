import {
  boundsOf,
  boundsOverlap,
  EMPTY_REGION,
  isEmptyRegion,
  regionAreaMm2,
  regionPerimeterMm,
  type Region,
  type RememberingEngine,
} from '../polygon'
import { PATH_TOLERANCE_MM } from '../tolerances'
import { isHair } from './hair'
import type { Levels } from './levels'
import type { Outlines } from './outlines'

/** What one layer wants held, and what of it a support may come below. */
export type Contact = {
  readonly layerIndex: number
  /** The highest level of the support below it. */
  readonly topLevel: number
  readonly wanted: Region
  /** Without what lies beside an upright wall. */
  readonly contact: Region
  /** The contact with its margin. */
  readonly top: Region
  /** What of the top is let off the side gap: no upright wall stands there, only what recedes. */
  readonly letOff: Region
}

export type ContactRules = {
  readonly sideGapMm: number
  readonly marginMm: number
  readonly lineWidthMm: number
  readonly freeLevels: number
  /** Levels in which a slope at the limit recedes by the side gap. */
  readonly recedes: number
  /** What ends below each layer, instead of its contact with a margin. */
  readonly tops: ReadonlyMap<number, Region> | null
}

/** A contact smaller than this holds nothing. */
const SMALLEST_MM2 = 1e-4
/** An outline that goes on unchanged for so many levels is a wall, however soon it ends below that. */
const WALL_LEVELS = 2
/** Outlines that differ by less than twice this are one. */
const HAIR_MM = 0.005
/** However narrow a margin is wished, half a line beyond a contact lets even a rim hold a line. */
const LEAST_MARGIN_LINES = 0.5

/**
 * The contacts of one holding.
 * @param wanted per layer: what of its underside is to be held; others are empty
 */
export function contactsOf(
  wanted: readonly Region[],
  outlines: Outlines,
  levels: Levels,
  engine: RememberingEngine,
  rules: ContactRules,
): Contact[] {
  const found: Contact[] = []
  const marginMm = Math.max(rules.marginMm, LEAST_MARGIN_LINES * rules.lineWidthMm)
  for (let i = 1; i < levels.count; i++) {
    if (isEmptyRegion(wanted[i])) continue
    const hold = engine.fewer(wanted[i], PATH_TOLERANCE_MM)
    const topLevel = i - rules.freeLevels - 1
    // Right below a slope the part has receded by then; an upright wall still stands there, or was the same
    // outline all along.
    const walls = [outlines.grown(i - 1 - rules.recedes, rules.sideGapMm)]
    if (isSameOutline(outlines.at(i - 1), outlines.at(i - 1 - WALL_LEVELS), engine))
      walls.push(outlines.grown(i - 1, rules.sideGapMm))
    const off = (region: Region) => {
      const near = walls.filter((wall) => !apart(region, wall))
      return near.length === 0 ? region : engine.minusAll([region], near)
    }
    const contact = off(hold)
    const isHeld = regionAreaMm2(contact) > SMALLEST_MM2
    const top = isHeld ? (rules.tops?.get(i) ?? engine.grow(contact, marginMm, 'miter')) : EMPTY_REGION
    found.push({
      layerIndex: i,
      topLevel,
      wanted: hold,
      contact: isHeld ? contact : EMPTY_REGION,
      top,
      letOff: isHeld ? off(top) : top,
    })
  }
  return found
}

/** Whether two outlines are one but for rounding. */
function isSameOutline(a: Region, b: Region, engine: RememberingEngine): boolean {
  if (a === b) return true
  const sliver = HAIR_MM * Math.min(regionPerimeterMm(a), regionPerimeterMm(b))
  if (Math.abs(regionAreaMm2(a) - regionAreaMm2(b)) > sliver) return false
  return isHair(engine.minus(a, b), HAIR_MM, engine) && isHair(engine.minus(b, a), HAIR_MM, engine)
}

const apart = (a: Region, b: Region) => isEmptyRegion(b) || !boundsOverlap(boundsOf(a.xyMm), boundsOf(b.xyMm))
