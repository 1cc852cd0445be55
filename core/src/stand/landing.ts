import {
  areApart,
  EMPTY_REGION,
  isEmptyRegion,
  splitPieces,
  type Region,
  type RememberingEngine,
} from '../polygon'
import { SAME_HEIGHT_MM } from '../tolerances'
import type { Outlines } from './outlines'
import { printable } from './printable'

/**
 * Where a slope of the part recedes, a stand begins on it step by step, each narrower than a line: steps are
 * waited for up to this height, until together they can hold one.
 */
const AWAITED_MM = 0.6
/** Its first line must lie over what began no longer ago than that: it would hang freely else. */
const ROOTED_MM = 0.2
const ROUND_MM = 0.01

/** What of levels can hold a line, and what begins on the part and waits until it can. */
export type Landing = {
  /** What began at levels and waits there. */
  readonly waiting: Waiting
  /** What still waits at a level: grown by what it may have stepped out since it began. */
  awaited(level: number): Region[]
  /**
   * What of a level can hold a line, and lies on what is `below`, or near above the part: nothing above may
   * rely on what is never laid, or hangs.
   */
  laid(level: number, region: Region, start: Region | undefined, below: readonly Region[]): Region
}

/** By the level at which it began. */
export type Waiting = ReadonlyMap<number, Region>

type LandingRules = {
  readonly heightMm: number
  /** How far a level may step out beyond the one below. */
  readonly stepMm: number
}

/** Follows a stand up from the bed, level by level, wherever it lands on the part. */
export function landingOn(
  rules: LandingRules & { readonly lineWidthMm: number },
  engine: RememberingEngine,
): Landing {
  const waiting = new Map<number, Region>()
  return {
    waiting,
    awaited: (k) => awaitedAt(k, waiting, rules, engine),
    laid(k, region, start, below) {
      const { kept, slivers } = printable(region, rules.lineWidthMm, engine)
      if (start && !isEmptyRegion(slivers)) waiting.set(k, engine.common(start, slivers))
      if (waitingWithin(AWAITED_MM, k, waiting, rules).length === 0) return kept
      const roots = [...below, start ?? EMPTY_REGION]
      for (const [, waits] of waitingWithin(ROOTED_MM, k, waiting, rules)) roots.push(waits)
      const all = splitPieces(kept)
      const rooted = all.filter((piece) => roots.some((root) => !areApart(piece, root)))
      return rooted.length === all.length ? kept : engine.joined(rooted)
    },
  }
}

/** What began no farther below a level, and how many levels ago. */
function waitingWithin(
  mm: number,
  k: number,
  waiting: Waiting,
  { heightMm }: LandingRules,
): (readonly [number, Region])[] {
  const found: [number, Region][] = []
  for (let n = 0; n * heightMm <= mm + SAME_HEIGHT_MM; n++) {
    const region = waiting.get(k - n)
    if (region) found.push([n, region])
  }
  return found
}

const awaitedAt = (k: number, waiting: Waiting, rules: LandingRules, engine: RememberingEngine): Region[] =>
  waitingWithin(AWAITED_MM, k, waiting, rules).map(([levels, region]) =>
    engine.grow(region, levels * rules.stepMm, 'round', ROUND_MM),
  )

/**
 * Everything that may lie below what begins on the part at a level: the part itself right below the lower
 * gap, and what waits, grown like `awaited`.
 * @param highest the part's level right below the lower gap
 */
export const beginningsOn = (
  level: number,
  highest: number,
  outlines: Outlines,
  waiting: Waiting,
  rules: LandingRules,
  engine: RememberingEngine,
): Region[] => [outlines.at(highest), ...awaitedAt(level, waiting, rules, engine)]
