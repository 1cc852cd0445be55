import {
  boundsOverlap,
  boxOf,
  EMPTY_REGION,
  isEmptyRegion,
  type Region,
  type RememberingEngine,
} from '../polygon'
import type { Checkpoint } from '../slice'
import type { Outlines } from './outlines'

/** Columns may stray this far from where they were cut; side gaps are kept within twice as much. */
const COLUMN_TOLERANCE_MM = 0.01
/** The same where supports come as near to the part beside them as they may. */
const NEAR_TOLERANCE_MM = 0.005
/** Stands are no more finely cut than a printer can place them: notches this deep are filled below a top. */
const NOTCH_MM = 0.3
/** The steepest slope that stands may begin on in steps, as its tangent: 60 degrees. */
const STEEPEST = 1.73
/** What recedes by less than this share of a level is an upright wall. */
const UPRIGHT_SHARE = 0.1
/**
 * Beside the layer right below a slope a support stays this far away, where the gap is thinner than a layer.
 */
export const TOUCH_MM = 0.065

export type ColumnRules = {
  readonly sideGapMm: number
  /** Whole levels that stay free above a support, and whether it reaches into one more. */
  readonly freeLevels: number
  /** From this level upwards supports lie between two levels of the part. */
  readonly shiftedFrom: number
  /**
   * Levels that stay free above the part where stands may rest on it; for a level, since shifted ones need
   * more.
   */
  freeBelow(level: number): number
  readonly heightMm: number
  /** Levels in which a slope at the limit recedes by the side gap. */
  readonly recedes: number
  /** Whether stands may begin on the part. */
  readonly onPart: boolean
}

/**
 * Where supports end: per level the tops that end there, margin included, and what of them is let off the
 * side gap.
 */
export type Tops = ReadonlyMap<number, { readonly top: Region; readonly letOff: Region }>

/**
 * Straight columns, from the top down: C[k] = (C[k+1] + tops[k]) - side gap around the part - what must stay
 * free above and below it.
 *
 * Right under a slope the part itself lies within the side gap, though it is the upper gap that counts there.
 * What is held is let off the side gap for the few levels that the slope needs to recede by it; next to an
 * upright wall, which does not recede, the side gap stays.
 * @param taken what other supports fill at a level
 */
export async function straightColumns(
  tops: Tops,
  outlines: Outlines,
  engine: RememberingEngine,
  rules: ColumnRules,
  taken: (level: number) => readonly Region[],
  checkpoint?: Checkpoint,
): Promise<Region[]> {
  const { count } = outlines
  const toleranceMm = rules.freeLevels > 0 ? COLUMN_TOLERANCE_MM : NEAR_TOLERANCE_MM
  const columns = new Array<Region>(count).fill(EMPTY_REGION)
  /** The level above, and what of it goes on: without the notches that a slope leaves step by step. */
  let last: Region = EMPTY_REGION
  let above: Region = EMPTY_REGION
  let lastAsked: readonly Region[] = []
  for (let k = count - 1; k >= 0; k--) {
    if (checkpoint && k % 8 === 0) await checkpoint(count - k, count)
    const top = tops.get(k)?.top ?? EMPTY_REGION
    if (isEmptyRegion(above) && isEmptyRegion(top)) {
      lastAsked = []
      continue
    }
    const letOff = [...letOffAt(k, tops, rules), ...landedOff(k, [above, top], outlines, rules, engine)]
    const others = taken(k)
    const asked = [...barredBy(k, outlines, rules), ...others]
    // A prism goes on as it is: nothing begins, nothing is let off, and what is in its way is what was in its
    // way before.
    if (isEmptyRegion(top) && letOff.length === 0 && isSame(asked, lastAsked)) {
      columns[k] = last
      continue
    }
    lastAsked = letOff.length === 0 ? asked : []
    const barred = barredFrom(k, [above, top], letOff, outlines, rules, engine)
    const cut = engine.minusAll([above, top], [...barred, ...others])
    last = columns[k] = engine.fewer(cut, toleranceMm)
    above = engine.unnotched(last, NOTCH_MM)
  }
  return columns
}

/** What of tops right above a level is let off the side gap there. */
export function letOffAt(
  k: number,
  tops: Tops,
  rules: Pick<ColumnRules, 'recedes' | 'freeLevels'>,
): Region[] {
  const letOff: Region[] = []
  for (let j = k; j <= k + Math.max(0, rules.recedes - rules.freeLevels); j++) {
    const found = tops.get(j)
    if (found && !isEmptyRegion(found.letOff)) letOff.push(found.letOff)
  }
  return letOff
}

/**
 * Where stands rest on a slope of the part, the lower gap counts and not the side gap: what of supports lies
 * over what they begin on is let off, as far as the part recedes there from the level below and to the level
 * above, and by the side gap within the levels that a slope of 60 degrees needs. Beside an upright wall,
 * however low, the side gap stays.
 */
export function landedOff(
  k: number,
  supports: readonly Region[],
  outlines: Outlines,
  rules: ColumnRules,
  engine: RememberingEngine,
): Region[] {
  const { sideGapMm, heightMm, onPart } = rules
  if (!onPart || sideGapMm === 0) return []
  const around = besideOf(k, outlines, rules).filter((region) => near(region, supports))
  if (around.length === 0) return []
  // What hangs on the part alone comes first: it stays as it is when supports change.
  const recedes = Math.ceil((sideGapMm * STEEPEST) / heightMm)
  const highest = k - rules.freeBelow(k) - 1
  const ground = [highest, highest - recedes].map((level) => outlines.at(level))
  const hairMm = UPRIGHT_SHARE * heightMm
  const [here, below] = [k, k - 1].map((level) =>
    engine.grow(
      engine.minus(outlines.at(level), outlines.grown(level + 1, hairMm)),
      sideGapMm,
      'round',
      hairMm,
    ),
  )
  const over = engine.commonAll([engine.common(here, below)], [...new Set(ground)])
  if (isEmptyRegion(over)) return []
  const slope = engine.minus(over, outlines.grown(k + recedes, sideGapMm))
  if (isEmptyRegion(slope)) return []
  const off = engine.commonAll(supports, [engine.commonAll([slope], around)])
  return isEmptyRegion(off) ? [] : [off]
}

/**
 * What the part bars from supports at a level, as far as it is near them: the side gap around it and what
 * must stay free above and below.
 */
export function barredFrom(
  k: number,
  supports: readonly Region[],
  letOff: readonly Region[],
  outlines: Outlines,
  rules: ColumnRules,
  engine: RememberingEngine,
): Region[] {
  const around = besideOf(k, outlines, rules).filter((region) => near(region, supports))
  const kept = letOff.length === 0 || around.length === 0 ? around : [engine.minusAll(around, letOff)]
  const touching = rules.freeLevels === 0 || letOff.length > 0
  return [...kept, ...directOf(k, outlines, rules, touching).filter((region) => near(region, supports))]
}

export const isSame = (a: readonly Region[], b: readonly Region[]) =>
  a.length === b.length && a.every((region, i) => region === b[i])

function near(region: Region, supports: readonly Region[]): boolean {
  const box = boxOf(region)
  return supports.some((one) => !isEmptyRegion(one) && boundsOverlap(box, boxOf(one)))
}

/** Layers of the part that share height with a level of the supports. */
const levelsBeside = (k: number, { shiftedFrom }: ColumnRules): number[] =>
  k >= shiftedFrom ? [k - 1, k] : [k]

/**
 * The side gap around the layers beside. A support that lies between two layers keeps it from the upper one.
 * From the lower one, beside which it is thinner than a layer, it may stay two layers less away: with an
 * upright wall both are the same, and on a slope that recedes upwards a stand could else not land.
 */
function besideOf(k: number, outlines: Outlines, rules: ColumnRules): Region[] {
  const { sideGapMm, heightMm } = rules
  const lowerMm = Math.min(sideGapMm, Math.max(TOUCH_MM, sideGapMm - 2 * heightMm))
  const regions = levelsBeside(k, rules).map((level) =>
    outlines.grown(level, level < k ? lowerMm : sideGapMm),
  )
  return [...new Set(regions)].filter((region) => !isEmptyRegion(region))
}

/**
 * What no support may share, let off or not: the part beside it, what lies within the gap above, and within
 * the one below.
 * @param touching whether supports come nearer to the part beside them than the side gap
 */
function directOf(k: number, outlines: Outlines, rules: ColumnRules, touching: boolean): Region[] {
  const found = new Set<Region>()
  for (const level of levelsBeside(k, rules))
    found.add(touching ? outlines.grown(level, TOUCH_MM) : outlines.at(level))
  for (let j = k + 1; j <= k + rules.freeLevels; j++) found.add(outlines.at(j))
  const low = Math.min(...levelsBeside(k, rules))
  for (let j = 1; j <= rules.freeBelow(k) - (k - low); j++) found.add(outlines.at(low - j))
  return [...found].filter((region) => !isEmptyRegion(region))
}

/** The part's outlines that a level depends on: as long as they are the same, so is what is barred. */
export function barredBy(k: number, outlines: Outlines, rules: ColumnRules): Region[] {
  const found: Region[] = []
  for (let j = k - Math.max(1, rules.freeBelow(k)); j <= k + rules.freeLevels; j++) found.push(outlines.at(j))
  return found
}
