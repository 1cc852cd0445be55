import {
  boundsOf,
  boundsOverlap,
  EMPTY_REGION,
  regionAreaMm2,
  regionContains,
  regionFromRings,
  ringAreaMm2,
  ringCount,
  ringOf,
  type Region,
} from './region'

/** Pieces of regions that were split before, or made of pieces. */
const known = new WeakMap<Region, readonly Region[]>()

/**
 * Splits a region into connected pieces: each outer ring with the holes that lie directly in it. The same
 * region gives the same pieces; one that is a single piece is its own.
 */
export function splitPieces(region: Region): readonly Region[] {
  let pieces = known.get(region)
  if (!pieces) {
    known.set(region, (pieces = piecesOf(region)))
    for (const piece of pieces) if (piece !== region) known.set(piece, [piece])
  }
  return pieces
}

function piecesOf(region: Region): Region[] {
  const outers: {
    ring: Float64Array
    area: number
    rings: Float64Array[]
    alone: Region
    bounds: ReturnType<typeof boundsOf>
  }[] = []
  const holes: Float64Array[] = []
  for (let r = 0; r < ringCount(region); r++) {
    const ring = ringOf(region, r)
    const area = ringAreaMm2(ring)
    if (area > 0)
      outers.push({ ring, area, rings: [ring], alone: regionFromRings([ring]), bounds: boundsOf(ring) })
    else if (area < 0) holes.push(ring)
  }
  if (outers.length === 1)
    return holes.length + 1 === ringCount(region) ? [region] : [regionFromRings([outers[0].ring, ...holes])]
  // Smallest first: a hole belongs to the tightest outer ring around it.
  const bySize = [...outers].sort((a, b) => a.area - b.area)
  for (const hole of holes) {
    const holeArea = -ringAreaMm2(hole)
    const bounds = boundsOf(hole)
    const home = bySize.find(
      (outer) => outer.area > holeArea && boundsOverlap(outer.bounds, bounds) && surrounds(outer.alone, hole),
    )
    home?.rings.push(hole)
  }
  return outers.map(({ rings }) => regionFromRings(rings))
}

/** So many sides of a hole are asked where they lie. */
const ASKED_SIDES = 5

/**
 * Whether a hole lies in an outer ring. Corners may touch it, where they count as outside; sides cannot lie
 * on it, so most of their middles tell.
 */
function surrounds(outer: Region, hole: Float64Array): boolean {
  const sides = hole.length / 2
  const asked = Math.min(ASKED_SIDES, sides)
  let inside = 0
  for (let n = 0; n < asked; n++) {
    const p = 2 * Math.floor((n * sides) / asked)
    const q = (p + 2) % hole.length
    if (regionContains(outer, (hole[p] + hole[q]) / 2, (hole[p + 1] + hole[q + 1]) / 2)) inside++
  }
  return 2 * inside > asked
}

/** Drops pieces below an area. */
export function dropSmallPieces(region: Region, smallestMm2: number): Region {
  const kept = splitPieces(region).filter((piece) => regionAreaMm2(piece) >= smallestMm2)
  return joinPieces(kept)
}

/** Puts shapes that do not overlap into one region. */
export function joinPieces(pieces: readonly Region[]): Region {
  const rings: Float64Array[] = []
  for (const piece of pieces) for (let r = 0; r < ringCount(piece); r++) rings.push(ringOf(piece, r))
  return regionFromRings(rings)
}

/** The same for pieces that `splitPieces` gave: what they make is known to be made of them. */
export function rejoinPieces(pieces: readonly Region[]): Region {
  if (pieces.length === 0) return EMPTY_REGION
  if (pieces.length === 1) return pieces[0]
  const region = joinPieces(pieces)
  known.set(region, pieces)
  return region
}
