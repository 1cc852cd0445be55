import type { Corner, PolygonEngine } from './engine'
import { withoutNotches } from './notches'
import { rejoinPieces } from './pieces'
import type { Region } from './region'
import { thinned } from './thin'

/**
 * An engine that gives the same answer, the very same region, to the same question about the same regions.
 */
export type RememberingEngine = PolygonEngine & {
  /** Fewer points, as `thinned`, remembered too. */
  fewer(region: Region, toleranceMm: number): Region
  /** Without small notches, as `withoutNotches`, remembered too. */
  unnotched(region: Region, depthMm: number): Region
  /** Pieces that do not overlap as one region: the same pieces make the same region. */
  joined(pieces: readonly Region[]): Region
  /** Takes over the answer to a growth that somebody knows already. */
  tellGrown(region: Region, deltaMm: number, corner: Corner, arcMm: number, answer: Region): void
}

/** Answers kept, by what they take up: those of a plan of hundreds of levels with dozens of pieces each. */
const MOST_KEPT_BYTES = 120e6
/** What an answer takes up beside its points: its question, and being kept. */
const KEEPING_BYTES = 400

/**
 * Remembers what it was asked. Most of a plan survives the change of one value; what is worked out from
 * regions that are still the same costs a look-up then.
 */
export function remembering(
  engine: PolygonEngine & Partial<Pick<RememberingEngine, 'fewer' | 'unnotched' | 'joined'>>,
): RememberingEngine {
  const numbers = new WeakMap<Region, number>()
  let last = 0
  const { fewer = thinned, unnotched = withoutNotches, joined = rejoinPieces } = engine
  const numberOf = (region: Region): number => {
    const known = numbers.get(region)
    if (known !== undefined) return known
    numbers.set(region, ++last)
    return last
  }
  const many = (regions: readonly Region[]): string => {
    let text = ''
    for (const region of regions) if (region.starts.length > 1) text += `${numberOf(region)},`
    return text
  }
  /** Two generations: when the younger is full, what was not asked for since the last time goes. */
  let young = new Map<string, Region>()
  let old = new Map<string, Region>()
  let youngBytes = 0
  function remembered(key: string, make: () => Region): Region {
    const recent = young.get(key)
    if (recent) return recent
    const answer = old.get(key) ?? make()
    if (youngBytes >= MOST_KEPT_BYTES) {
      old = young
      young = new Map()
      youngBytes = 0
    }
    young.set(key, answer)
    youngBytes += answer.xyMm.byteLength + answer.starts.byteLength + KEEPING_BYTES
    return answer
  }
  return {
    tellGrown: (region, deltaMm, corner, arc, answer) =>
      void remembered(`grow ${numberOf(region)} ${deltaMm} ${corner} ${arc}`, () => answer),
    clean: (region, rule, thinMm) =>
      remembered(`clean ${numberOf(region)} ${rule} ${thinMm}`, () => engine.clean(region, rule, thinMm)),
    union: (...regions) => remembered(`union ${many(regions)}`, () => engine.union(...regions)),
    minus: (from, ...what) =>
      remembered(`minus ${numberOf(from)} ${many(what)}`, () => engine.minus(from, ...what)),
    minusAll: (from, what) =>
      remembered(`minus ${many(from)} ${many(what)}`, () => engine.minusAll(from, what)),
    common: (a, b) => remembered(`common ${numberOf(a)} ${numberOf(b)}`, () => engine.common(a, b)),
    commonAll: (a, b) => remembered(`common ${many(a)} ${many(b)}`, () => engine.commonAll(a, b)),
    minusCommon: (from, ...of) =>
      remembered(`minusCommon ${numberOf(from)} ${many(of)} ${of.length}`, () =>
        engine.minusCommon(from, ...of),
      ),
    grow: (region, deltaMm, corner, arc) =>
      remembered(`grow ${numberOf(region)} ${deltaMm} ${corner} ${arc}`, () =>
        engine.grow(region, deltaMm, corner, arc),
      ),
    minusGrown: (from, what, deltaMm, arc) =>
      remembered(`minusGrown ${numberOf(from)} ${numberOf(what)} ${deltaMm} ${arc}`, () =>
        engine.minusGrown(from, what, deltaMm, arc),
      ),
    commonGrown: (a, b, deltaMm, corner) =>
      remembered(`commonGrown ${numberOf(a)} ${numberOf(b)} ${deltaMm} ${corner}`, () =>
        engine.commonGrown(a, b, deltaMm, corner),
      ),
    thin: (region, toleranceMm) =>
      remembered(`thin ${numberOf(region)} ${toleranceMm}`, () => engine.thin(region, toleranceMm)),
    joined: (pieces) =>
      pieces.length < 2 ? joined(pieces) : remembered(`join ${many(pieces)}`, () => joined(pieces)),
    unnotched: (region, depthMm) =>
      remembered(`unnotched ${numberOf(region)} ${depthMm}`, () => unnotched(region, depthMm)),
    fewer: (region, toleranceMm) =>
      remembered(`fewer ${numberOf(region)} ${toleranceMm}`, () => fewer(region, toleranceMm)),
  }
}
