import { groups } from '../groups'
import type { PolygonEngine } from './engine'
import { interning } from './interning'
import { boxOf, lieOf, meet, uncovered } from './lie'
import { splitPieces } from './pieces'
import { EMPTY_REGION, type Region } from './region'
import { remembering, type RememberingEngine } from './remembering'

/** A sharp corner reaches this many times as far as its sides grow. */
const MITER_REACH = 2

/**
 * An engine that works piece by piece: pieces that nothing meets go through as they are, the others are asked
 * about with what they meet and nothing else. From layer to layer most pieces stay, and `inner` remembers
 * what came of them.
 *
 * Pieces of one region do not overlap; where a list of regions may, pieces that come near each other stay
 * together.
 */
function piecewise(inner: RememberingEngine): RememberingEngine {
  const isOne = (region: Region) => splitPieces(region).length < 2
  const same = interning()
  const joined = (pieces: readonly Region[]) => inner.joined(pieces.map(same))
  const cluster = (pieces: readonly Region[]) => (pieces.length === 1 ? pieces[0] : joined(pieces))

  /**
   * Operates on each group of subjects with the clips that meet it. What meets none is `untouched`, a piece
   * that lies wholly in one is `covered`.
   */
  function cut(
    subjects: readonly Region[],
    clips: readonly Region[],
    operate: (group: readonly Region[], met: readonly Region[]) => Region,
    untouched: (group: readonly Region[]) => Region,
    covered: (piece: Region) => Region,
  ): Region {
    const clipPieces = clips.flatMap(splitPieces)
    const result: Region[] = []
    for (const group of groupsOf(subjects, 0)) {
      let met = clipPieces.filter((clip) => group.some((piece) => meet(piece, clip, 0)))
      if (group.length === 1) {
        const [piece] = group
        const lie = met.map((clip) => lieOf(piece, clip))
        if (lie.includes('within')) {
          result.push(...splitPieces(covered(piece)))
          continue
        }
        met = met.filter((_, i) => lie[i] !== 'apart')
      }
      const made = met.length === 0 ? untouched(group) : operate(group, uncovered(met))
      result.push(...splitPieces(made))
    }
    return joined(result)
  }
  const united = (group: readonly Region[]) => (group.length === 1 ? group[0] : inner.union(...group))
  const nothing = () => EMPTY_REGION
  const itself = (piece: Region) => piece

  const engine: RememberingEngine = {
    ...inner,
    joined,
    union(...regions) {
      return joined(groupsOf(regions, 0).flatMap((group) => splitPieces(united(group))))
    },
    minus: (from, ...what) => engine.minusAll([from], what),
    minusAll: (from, what) => cut(from, what, (group, met) => inner.minusAll(group, met), united, nothing),
    common: (a, b) => engine.commonAll([a], [b]),
    commonAll: (a, b) => cut(a, b, (group, met) => inner.commonAll(group, met), nothing, itself),
    grow(region, deltaMm, corner, arcMm) {
      if (isOne(region)) return inner.grow(region, deltaMm, corner, arcMm)
      const groups =
        deltaMm < 0
          ? splitPieces(region).map((piece) => [piece])
          : groupsOf([region], 2 * MITER_REACH * deltaMm)
      return joined(
        groups.flatMap((group) => splitPieces(inner.grow(cluster(group), deltaMm, corner, arcMm))),
      )
    },
    unnotched: (region, depthMm) => joined(splitPieces(inner.unnotched(region, depthMm))),
    fewer(region, toleranceMm) {
      if (isOne(region)) return inner.fewer(region, toleranceMm)
      return joined(splitPieces(region).flatMap((piece) => splitPieces(inner.fewer(piece, toleranceMm))))
    },
  }
  return engine
}

/**
 * An engine for stacks of layers: it works piece by piece and remembers both pieces and whole regions, so
 * that what stays from layer to layer, or from plan to plan, costs a look-up.
 */
export const stackEngine = (engine: PolygonEngine): RememberingEngine =>
  remembering(piecewise(remembering(engine)))

/**
 * Pieces of regions, those together that may overlap: of different regions, or, with a margin, of any that
 * come so near to each other.
 */
function groupsOf(regions: readonly Region[], marginMm: number): (readonly Region[])[] {
  const all = new Set<Region>()
  for (const region of regions) for (const piece of splitPieces(region)) all.add(piece)
  const pieces = [...all]
  if (regions.length === 1 && marginMm === 0) return pieces.map((piece) => [piece])
  const { add, rootOf, unite } = groups()
  pieces.forEach(add)
  const order = pieces.map((_, i) => i).sort((a, b) => boxOf(pieces[a]).minX - boxOf(pieces[b]).minX)
  for (let n = 0; n < order.length; n++) {
    const one = pieces[order[n]]
    const farthest = boxOf(one).maxX + marginMm
    for (let m = n + 1; m < order.length && boxOf(pieces[order[m]]).minX <= farthest; m++)
      if (meet(one, pieces[order[m]], marginMm)) unite(order[n], order[m])
  }
  const byRoot = new Map<number, Region[]>()
  pieces.forEach((piece, i) => {
    const root = rootOf(i)
    const group = byRoot.get(root)
    if (group) group.push(piece)
    else byRoot.set(root, [piece])
  })
  return [...byRoot.values()]
}
