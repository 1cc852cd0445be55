import {
  boundsOf,
  boxRegion,
  isEmptyRegion,
  nearSides,
  ringCount,
  ringOf,
  splitPieces,
  type Region,
} from '../polygon'
import { sameValues } from '../sameValues'

/** Lines of two levels lie on each other when their outlines are no farther apart than this share of one. */
const ON_EACH_OTHER = 0.8

/** What was found on columns before, the last time. */
const known = new WeakMap<
  readonly Region[],
  { readonly asked: readonly unknown[]; readonly found: Bearings }
>()
type Bearings = ReadonlyMap<number, readonly Region[]>

/**
 * Where something small stands on a level between its lines: a piece or a branch whose outline does not go on
 * below, or a hole that begins. Its wall would begin on nothing, so the level has to be denser there.
 * @param columns what of each level is filled
 * @param rounds per level the branches that stand alone: x, y, radius by turns
 * @param apartMm lines lie no farther from each other: what is larger meets some
 * @returns by the level that bears, boxes around what it bears
 */
export function bearingsOf(
  columns: readonly Region[],
  rounds: readonly Float64Array[],
  apartMm: number,
  lineWidthMm: number,
): Bearings {
  const asked = [rounds, apartMm, lineWidthMm]
  const before = known.get(columns)
  if (before && sameValues(before.asked, asked)) return before.found
  const found = lookedFor(columns, rounds, apartMm, lineWidthMm)
  known.set(columns, { asked, found })
  return found
}

function lookedFor(
  columns: readonly Region[],
  rounds: readonly Float64Array[],
  apartMm: number,
  lineWidthMm: number,
): Bearings {
  const found = new Map<number, Region[]>()
  const nearMm = ON_EACH_OTHER * lineWidthMm
  for (let k = 0; k + 1 < columns.length; k++) {
    const below = columns[k]
    if (isEmptyRegion(below) || below === columns[k + 1]) continue
    const borne: Region[] = []
    const goesOn = new Set(splitPieces(below))
    for (const piece of splitPieces(columns[k + 1])) {
      if (goesOn.has(piece)) continue
      for (let r = 0; r < ringCount(piece); r++) {
        const ring = ringOf(piece, r)
        const box = boundsOf(ring)
        const isSmall = Math.min(box.maxX - box.minX, box.maxY - box.minY) < apartMm
        if (isSmall && liesFree(ring, below, nearMm)) borne.push(boxRegion(box, lineWidthMm))
      }
    }
    const [own, lower] = [rounds[k + 1] ?? NONE, rounds[k] ?? NONE]
    for (let i = 0; i < own.length; i += 3) {
      const [x, y, radius] = own.subarray(i, i + 3)
      if (2 * radius >= apartMm || hasNear(lower, x, y, radius)) continue
      const rim = [x - radius, y, x + radius, y, x, y - radius, x, y + radius]
      if (liesFree(rim, below, nearMm)) borne.push(boxRegion(boundsOf(Float64Array.from(rim)), lineWidthMm))
    }
    if (borne.length > 0) found.set(k, borne)
  }
  return found
}

const NONE = new Float64Array(0)

/** Whether no corner of a ring comes near any side of a region. */
function liesFree(ring: ArrayLike<number>, region: Region, nearMm: number): boolean {
  for (let p = 0; p < ring.length; p += 2) if (nearSides(region, ring[p], ring[p + 1], nearMm)) return false
  return true
}

/** Whether a branch of the level below carries one of this level. */
function hasNear(rounds: Float64Array, x: number, y: number, radius: number): boolean {
  for (let i = 0; i < rounds.length; i += 3)
    if (Math.hypot(rounds[i] - x, rounds[i + 1] - y) < Math.max(radius, rounds[i + 2])) return true
  return false
}
