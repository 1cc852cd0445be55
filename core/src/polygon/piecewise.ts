import { splitPieces } from './pieces'
import { boundsOf, boundsOverlap, EMPTY_REGION, regionContains, type Bounds2, type Region } from './region'
import type { RememberingEngine } from './remembering'

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
export function piecewise(inner: RememberingEngine): RememberingEngine {
  const isOne = (region: Region) => splitPieces(region).length < 2
  const same = interning()
  const joined = (pieces: readonly Region[]) => inner.joined(pieces.map(same))
  const cluster = (pieces: readonly Region[]) => (pieces.length === 1 ? pieces[0] : joined(pieces))

  /** Each group of subjects with the clips that meet it; `passed` are the pieces that meet none. */
  function cut(
    subjects: readonly Region[],
    clips: readonly Region[],
    marginMm: number,
    operate: (group: readonly Region[], met: readonly Region[]) => Region,
    untouched: (group: readonly Region[]) => Region,
  ): Region {
    const clipPieces = clips.flatMap(splitPieces)
    const result: Region[] = []
    for (const group of groupsOf(subjects, 0)) {
      const met = clipPieces.filter((clip) => group.some((piece) => meet(piece, clip, marginMm)))
      const made = met.length === 0 ? untouched(group) : operate(group, met)
      result.push(...splitPieces(made))
    }
    return joined(result)
  }
  const united = (group: readonly Region[]) => (group.length === 1 ? group[0] : inner.union(...group))
  const nothing = () => EMPTY_REGION

  const engine: RememberingEngine = {
    ...inner,
    union(...regions) {
      return joined(groupsOf(regions, 0).flatMap((group) => splitPieces(united(group))))
    },
    minus: (from, ...what) => engine.minusAll([from], what),
    minusAll: (from, what) => cut(from, what, 0, (group, met) => inner.minusAll(group, met), united),
    common: (a, b) => engine.commonAll([a], [b]),
    commonAll: (a, b) => cut(a, b, 0, (group, met) => inner.commonAll(group, met), nothing),
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
    minusGrown: (from, what, deltaMm, arcMm) =>
      cut(
        [from],
        [what],
        MITER_REACH * Math.abs(deltaMm),
        ([piece], met) => inner.minusGrown(piece, cluster(met), deltaMm, arcMm),
        united,
      ),
    commonGrown: (a, b, deltaMm, corner) =>
      cut(
        [a],
        [b],
        MITER_REACH * Math.abs(deltaMm),
        ([piece], met) => inner.commonGrown(piece, cluster(met), deltaMm, corner),
        nothing,
      ),
    unnotched: (region, depthMm) => joined(splitPieces(inner.unnotched(region, depthMm))),
    fewer(region, toleranceMm) {
      if (isOne(region)) return inner.fewer(region, toleranceMm)
      return joined(splitPieces(region).flatMap((piece) => splitPieces(inner.fewer(piece, toleranceMm))))
    },
  }
  return engine
}

/** Whether two regions have the same rings in the same order, wherever those begin. */
function sameOutlines(a: Region, b: Region): boolean {
  if (a.xyMm.length !== b.xyMm.length || a.starts.length !== b.starts.length) return false
  for (let r = 0; r + 1 < a.starts.length; r++) {
    const from = a.starts[r]
    const count = a.starts[r + 1] - from
    if (b.starts[r] !== from || b.starts[r + 1] - from !== count) return false
    const [p, q] = [a.xyMm, b.xyMm]
    let shift = 0
    while (
      shift < count &&
      (p[2 * from] !== q[2 * (from + shift)] || p[2 * from + 1] !== q[2 * (from + shift) + 1])
    )
      shift++
    if (shift === count) return false
    for (let i = 0; i < count; i++) {
      const j = from + ((i + shift) % count)
      if (p[2 * (from + i)] !== q[2 * j] || p[2 * (from + i) + 1] !== q[2 * j + 1]) return false
    }
  }
  return true
}

/** Shapes kept to be met again. */
const MOST_KEPT = 20_000

/** Gives for a shape the one that was given before for a shape with the same points. */
function interning(): (region: Region) => Region {
  let young = new Map<number, Region>()
  let old = new Map<number, Region>()
  const given = new WeakSet<Region>()
  return (region) => {
    if (given.has(region)) return region
    const mark = markOf(region)
    const before = young.get(mark) ?? old.get(mark)
    const found = before && sameOutlines(before, region) ? before : region
    if (young.size >= MOST_KEPT) {
      old = young
      young = new Map()
    }
    young.set(mark, found)
    given.add(found)
    return found
  }
}

/** A number that does not change when rings begin elsewhere. */
function markOf({ xyMm, starts }: Region): number {
  let mark = starts.length
  for (let i = 0; i < xyMm.length; i += 2)
    mark +=
      Math.imul(
        Math.round(xyMm[i] * 1e4) ^ Math.imul(Math.round(xyMm[i + 1] * 1e4), 0x9e3779b1),
        0x85ebca6b,
      ) >>> 0
  return mark
}

const boxes = new WeakMap<Region, Bounds2>()
function boxOf(region: Region): Bounds2 {
  let box = boxes.get(region)
  if (!box) boxes.set(region, (box = boundsOf(region.xyMm)))
  return box
}

/**
 * Pieces of regions, those together that may overlap: of different regions, or, with a margin, of any that
 * come so near to each other.
 */
function groupsOf(regions: readonly Region[], marginMm: number): (readonly Region[])[] {
  const all = new Set<Region>()
  for (const region of regions) for (const piece of splitPieces(region)) all.add(piece)
  const pieces = [...all]
  if (regions.length === 1 && marginMm === 0) return pieces.map((piece) => [piece])
  const home = pieces.map((_, i) => i)
  const rootOf = (i: number): number => {
    while (home[i] !== i) i = home[i] = home[home[i]]
    return i
  }
  const order = pieces.map((_, i) => i).sort((a, b) => boxOf(pieces[a]).minX - boxOf(pieces[b]).minX)
  for (let n = 0; n < order.length; n++) {
    const one = pieces[order[n]]
    const farthest = boxOf(one).maxX + marginMm
    for (let m = n + 1; m < order.length && boxOf(pieces[order[m]]).minX <= farthest; m++)
      if (meet(one, pieces[order[m]], marginMm)) home[rootOf(order[n])] = rootOf(order[m])
  }
  const groups = new Map<number, Region[]>()
  pieces.forEach((piece, i) => {
    const root = rootOf(i)
    const group = groups.get(root)
    if (group) group.push(piece)
    else groups.set(root, [piece])
  })
  return [...groups.values()]
}

/** Whether two pieces may come within a margin of each other. Never false when they do. */
function meet(a: Region, b: Region, marginMm: number): boolean {
  return reaches(a, boxOf(b), marginMm) && reaches(b, boxOf(a), marginMm)
}

/** Whether a region has a side in a box, or the box in it. */
function reaches(region: Region, box: Bounds2, marginMm: number): boolean {
  if (!boundsOverlap(boxOf(region), box, marginMm)) return false
  const [minX, minY, maxX, maxY] = [
    box.minX - marginMm,
    box.minY - marginMm,
    box.maxX + marginMm,
    box.maxY + marginMm,
  ]
  const { xyMm, starts } = region
  for (let r = 0; r + 1 < starts.length; r++) {
    let ax = xyMm[2 * starts[r + 1] - 2]
    let ay = xyMm[2 * starts[r + 1] - 1]
    for (let p = 2 * starts[r]; p < 2 * starts[r + 1]; p += 2) {
      const bx = xyMm[p]
      const by = xyMm[p + 1]
      const aside =
        (ax < minX && bx < minX) ||
        (ax > maxX && bx > maxX) ||
        (ay < minY && by < minY) ||
        (ay > maxY && by > maxY)
      if (!aside) return true
      ax = bx
      ay = by
    }
  }
  return regionContains(region, minX, minY)
}
