import {
  areApart,
  boxOf,
  boxRegion,
  EMPTY_REGION,
  isEmptyRegion,
  joinPieces,
  splitPieces,
  type Region,
  type RememberingEngine,
} from '../polygon'
import { beyond, HAIR_MM } from './beyond'
import { printable, type Printable } from './printable'

/** What of each level is interface, what the denser stand right below it, and what is stand. */
export type Roles = {
  readonly touching: readonly Region[]
  readonly dense: readonly Region[]
  readonly stand: readonly Region[]
  /** What they divide: columns without what would step out too far beyond what is laid of the level below. */
  readonly columns: readonly Region[]
  /** Levels of which nobody lays some that matters. */
  readonly incomplete: readonly number[]
}

export type RoleRules = {
  readonly lineWidthMm: number
  /** The lowest levels of the interface below a top, and of the denser stand below that. */
  lowestOf(topLevel: number): { readonly interface: number; readonly dense: number }
  /** A top has a say in no more levels than these. */
  readonly mostLevels: number
  /** Lines of a stand may lie this far from each other: what is denser must reach from one to the next. */
  readonly linesApartMm: number
  /** What of a level must be denser because something small stands on it. */
  readonly bearings: ReadonlyMap<number, readonly Region[]>
  /** Levels of interface above where columns begin on the part. */
  readonly lowerLayers: number
  /** How far a level may step out beyond the one below. */
  readonly stepMm: number
  /** Branches that stand alone at a level. */
  roundsAt(level: number): Region
  /** Where a level may begin on the part instead, or on what waits there for a line. */
  mayBeginAt(level: number): readonly Region[]
}

/**
 * Divides columns: right below a top they are interface, below that dense stand, below that stand. What of
 * them would be narrower than a line takes from the stand beside it, or goes to whoever can lay it; nobody
 * gets what is too narrow by itself.
 * @param tops what ends at each level
 * @param starts where columns begin on the part
 */
export function rolesOf(
  columns: readonly Region[],
  tops: ReadonlyMap<number, { readonly top: Region }>,
  starts: ReadonlyMap<number, Region>,
  engine: RememberingEngine,
  rules: RoleRules,
): Roles {
  const roles = {
    touching: [] as Region[],
    dense: [] as Region[],
    stand: [] as Region[],
    columns: [] as Region[],
    incomplete: [] as number[],
  }
  /** What of the level below nobody lays. */
  let missing: Region = EMPTY_REGION
  const kept = (region: Region) => printable(region, rules.lineWidthMm, engine)
  columns.forEach((whole, k) => {
    const column = onWhatIsLaid(whole, k)
    roles.columns.push(column)
    const near: Region[] = []
    const close: Region[] = []
    for (let j = k; j < k + rules.mostLevels; j++) {
      const found = tops.get(j)
      if (!found || isEmptyRegion(found.top)) continue
      const lowest = rules.lowestOf(j)
      if (k >= lowest.interface) near.push(found.top)
      else if (k >= lowest.dense) close.push(found.top)
    }
    close.push(...(rules.bearings.get(k) ?? []))
    for (let j = k; j > k - rules.lowerLayers; j--) {
      const start = starts.get(j)
      if (start) near.push(start)
    }
    if (isEmptyRegion(column) || (near.length === 0 && close.length === 0)) {
      roles.touching.push(EMPTY_REGION)
      roles.dense.push(EMPTY_REGION)
      layStand(kept(column), k)
      return
    }
    const touching = near.length === 0 ? EMPTY_REGION : wideEnough(engine.commonAll(near, [column]), column)
    const rest = isEmptyRegion(touching) ? column : engine.minus(column, touching)
    const under = close.length === 0 ? EMPTY_REGION : engine.commonAll(close, [rest])
    const dense = wideEnough(reachingLines(under, rest, rules.linesApartMm, engine), rest)
    const below = kept(isEmptyRegion(dense) ? rest : engine.minus(rest, dense))
    const carrying = kept(joined(dense, below.slivers, engine))
    const ending = kept(joined(touching, carrying.slivers, engine))
    layStand(
      isEmptyRegion(ending.slivers)
        ? { ...below, slivers: EMPTY_REGION }
        : kept(joined(below.kept, ending.slivers, engine)),
      k,
    )
    roles.dense.push(carrying.kept)
    roles.touching.push(ending.kept)
  })
  return roles

  function layStand(laid: Printable, k: number): void {
    roles.stand.push(laid.kept)
    misses(laid.slivers, k)
  }

  /**
   * What is too narrow here is laid by nobody: what lies on it steps out farther than it may, if only by as
   * much as that.
   */
  function misses(slivers: Region, k: number): void {
    const lost = splitPieces(slivers).filter((piece) => {
      const { minX, minY, maxX, maxY } = boxOf(piece)
      return Math.hypot(maxX - minX, maxY - minY) > 2 * HAIR_MM
    })
    if (lost.length === 0) return
    roles.incomplete.push(k)
    missing = joined(missing, joinPieces(lost), engine)
  }

  /** Cuts a level down where what would carry it is missing. What is cut is missing as well. */
  function onWhatIsLaid(column: Region, k: number): Region {
    const lost = missing
    missing = EMPTY_REGION
    if (isEmptyRegion(lost) || isEmptyRegion(column)) return column
    const near = engine.common(column, engine.grow(lost, rules.stepMm, 'round', HAIR_MM))
    const laid = [roles.touching[k - 1], roles.dense[k - 1], roles.stand[k - 1], rules.roundsAt(k - 1)]
    if (isEmptyRegion(near)) return column
    const farMm = 2 * rules.stepMm + 1
    const around = splitPieces(near).map((piece) => boxRegion(boxOf(piece), farMm))
    const below = engine.commonAll(laid, around)
    const over = beyond(near, [below], rules.stepMm, () => rules.mayBeginAt(k), engine)
    if (!over) return column
    // Grown again level by level, every rounding of a corner would be rounded anew.
    missing = engine.fewer(over, HAIR_MM / 5)
    // What the whole level cannot hold, none of its roles can.
    const left = kept(engine.minus(column, missing))
    misses(left.slivers, k)
    return left.kept
  }

  /**
   * A region, where it is narrower than a line made wider into what lies beside it: nothing would be laid
   * there else, and what comes above would begin on nothing.
   */
  function wideEnough(region: Region, within: Region): Region {
    const { slivers } = kept(region)
    if (isEmptyRegion(slivers)) return region
    return engine.union(region, engine.common(engine.grow(slivers, rules.lineWidthMm, 'miter'), within))
  }
}

/**
 * Small dense pieces, made so large that they reach from one line of the stand below to the next: they would
 * lie between two of them else, on nothing.
 */
function reachingLines(dense: Region, within: Region, apartMm: number, engine: RememberingEngine): Region {
  const larger = splitPieces(dense).flatMap((piece) => {
    const box = boxOf(piece)
    const { minX, minY, maxX, maxY } = box
    const x = Math.max(0, apartMm - (maxX - minX)) / 2
    const y = Math.max(0, apartMm - (maxY - minY)) / 2
    if (x === 0 && y === 0) return []
    return [boxRegion(box, x, y)]
  })
  if (larger.length === 0) return dense
  const reaching = splitPieces(engine.commonAll([dense, ...larger], [within]))
  // What a box meets of another stand has nothing to carry there.
  const needed = splitPieces(dense)
  return engine.joined(reaching.filter((piece) => needed.some((one) => !areApart(piece, one))))
}

const joined = (a: Region, b: Region, engine: RememberingEngine): Region =>
  isEmptyRegion(b) ? a : isEmptyRegion(a) ? b : engine.union(a, b)
