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
  const { xyMm, starts } = region
  const outers: { readonly ring: number; readonly area: number; readonly holes: Float64Array[] }[] = []
  const holes: number[] = []
  const areas = new Float64Array(ringCount(region))
  for (let r = 0; r < areas.length; r++) {
    const area = (areas[r] = ringAreaMm2(xyMm, starts[r], starts[r + 1]))
    if (area > 0) outers.push({ ring: r, area, holes: [] })
    else if (area < 0) holes.push(r)
  }
  if (outers.length === 1 && holes.length + 1 === areas.length) return [region]
  const alone = (r: number): Region => ({
    xyMm: xyMm.slice(2 * starts[r], 2 * starts[r + 1]),
    starts: Uint32Array.of(0, starts[r + 1] - starts[r]),
  })
  if (holes.length === 0) return outers.map(({ ring }) => alone(ring))
  if (outers.length === 1) return [regionFromRings([outers[0].ring, ...holes].map((r) => ringOf(region, r)))]
  // Smallest first: a hole belongs to the tightest outer ring around it.
  const bySize = [...outers]
    .sort((a, b) => a.area - b.area)
    .map((outer) => {
      const shape = alone(outer.ring)
      return { ...outer, shape, bounds: boundsOf(shape.xyMm) }
    })
  for (const r of holes) {
    const hole = ringOf(region, r)
    const bounds = boundsOf(hole)
    const home = bySize.find(
      (outer) =>
        outer.area > -areas[r] && boundsOverlap(outer.bounds, bounds) && surrounds(outer.shape, hole),
    )
    home?.holes.push(hole)
  }
  return outers.map(({ ring, holes: within }) =>
    within.length === 0 ? alone(ring) : regionFromRings([ringOf(region, ring), ...within]),
  )
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
  let [rings, points] = [0, 0]
  for (const piece of pieces) {
    rings += ringCount(piece)
    points += piece.xyMm.length / 2
  }
  const xyMm = new Float64Array(2 * points)
  const starts = new Uint32Array(rings + 1)
  let [ring, point] = [0, 0]
  for (const piece of pieces) {
    xyMm.set(piece.xyMm, 2 * point)
    for (let r = 1; r < piece.starts.length; r++) starts[++ring] = point + piece.starts[r]
    point += piece.xyMm.length / 2
  }
  return { xyMm, starts }
}

/** The same for pieces that `splitPieces` gave: what they make is known to be made of them. */
export function rejoinPieces(pieces: readonly Region[]): Region {
  if (pieces.length === 0) return EMPTY_REGION
  if (pieces.length === 1) return pieces[0]
  const region = joinPieces(pieces)
  known.set(region, pieces)
  return region
}
