import {
  areApart,
  EMPTY_REGION,
  isEmptyRegion,
  splitPieces,
  type Region,
  type RememberingEngine,
} from '../polygon'
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
  /** What began at levels and waited there. */
  readonly waiting: ReadonlyMap<number, Region>
  /** What still waits at a level: grown by what it may have stepped out since it began. */
  awaited(level: number): Region[]
  /**
   * What of a level can hold a line, and lies on what is `below`, or near above the part: nothing above may
   * rely on what is never laid, or hangs.
   */
  laid(level: number, region: Region, start: Region | undefined, below: readonly Region[]): Region
}

/** @param rules `stepMm`: how far a level may step out beyond the one below */
export function landingOn(
  rules: { readonly lineWidthMm: number; readonly heightMm: number; readonly stepMm: number },
  engine: RememberingEngine,
): Landing {
  let narrow: { readonly level: number; readonly region: Region }[] = []
  const waiting = new Map<number, Region>()
  return {
    waiting,
    awaited(k) {
      narrow = narrow.filter(({ level }) => (k - level) * rules.heightMm <= AWAITED_MM)
      return narrow.map(({ level, region }) =>
        engine.grow(region, (k - level) * rules.stepMm, 'round', ROUND_MM),
      )
    },
    laid(k, region, start, below) {
      const { kept, slivers } = printable(region, rules.lineWidthMm, engine)
      if (start && !isEmptyRegion(slivers)) {
        const waits = engine.common(start, slivers)
        narrow.push({ level: k, region: waits })
        waiting.set(k, waits)
      }
      if (narrow.length === 0) return kept
      const roots = [...below, start ?? EMPTY_REGION]
      for (const one of narrow) if ((k - one.level) * rules.heightMm <= ROOTED_MM) roots.push(one.region)
      const all = splitPieces(kept)
      const rooted = all.filter((piece) => roots.some((root) => !areApart(piece, root)))
      return rooted.length === all.length ? kept : engine.joined(rooted)
    },
  }
}

/**
 * Everything that may lie below what begins on the part at a level: the part itself right below the lower
 * gap, and what waits, grown like `awaited`.
 * @param highest the part's level right below the lower gap
 */
export function beginningsOn(
  level: number,
  highest: number,
  outlines: Outlines,
  waiting: ReadonlyMap<number, Region>,
  rules: { readonly heightMm: number; readonly stepMm: number },
  engine: RememberingEngine,
): Region[] {
  const found = [outlines.at(highest)]
  for (let n = 1; n * rules.heightMm <= AWAITED_MM; n++) {
    const waits = waiting.get(level - n)
    if (waits) found.push(engine.grow(waits, n * rules.stepMm, 'round', ROUND_MM))
  }
  return found
}
