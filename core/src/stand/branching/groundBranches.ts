import {
  areApart,
  boundsOf,
  boundsOverlap,
  boxOf,
  EMPTY_REGION,
  isEmptyRegion,
  joinPieces,
  nearSides,
  regionAreaMm2,
  regionContains,
  regionFromRings,
  ringAreaMm2,
  ringCount,
  ringOf,
  splitPieces,
  type Region,
  type RememberingEngine,
} from '../../polygon'
import type { Checkpoint } from '../../slice'
import type { Ground } from '../grounded'
import { isHair } from '../hair'
import { landingOn, type Waiting } from '../landing'
import type { Outlines } from '../outlines'
import type { Branching } from './branchColumns'
import { hullAround } from './hull'
import { disc, regionOf, roundRing, type Section } from './section'

/** A rim twice this wide comes from thinned outlines, not from anything that hangs. */
const HAIR_MM = 0.004

/** Holes smaller than this are filled. */
const PINHOLE_MM2 = 6
/** A hole that ends this near to the side gap is there for it. */
const NEAR_MM = 0.1
/** Places along a rim that are looked at are this far from each other. */
const RIM_MM = 0.5

export type BranchGround = Ground & {
  readonly sideGapMm: number
  /** Levels below an underside that stay free. */
  readonly freeAbove: number
  /** What other supports fill at a level. */
  taken(level: number): readonly Region[]
}

export type GroundedBranches = {
  readonly wide: readonly Region[]
  /** Per level the sections that stand alone: x, y, radius by turns. */
  readonly rounds: readonly Float64Array[]
  /** Where of a level something begins on the part, and what of that waits for more. */
  readonly starts: ReadonlyMap<number, Region>
  readonly waiting: Waiting
}

/**
 * Leaves out of branches whatever would begin in mid-air, and then whatever leads up to nothing. A section
 * that stands alone is carried by the same branch below it; everything else is measured against what really
 * stands there.
 */
export async function groundBranches(
  { wide: met, sections }: Branching,
  tops: ReadonlyMap<number, { readonly top: Region }>,
  outlines: Outlines,
  engine: RememberingEngine,
  ground: BranchGround,
  checkpoint?: Checkpoint,
): Promise<GroundedBranches> {
  const standing = [...met]
  const starts = new Map<number, Region>()
  const landing = landingOn(ground, engine)
  for (let k = 0; k < standing.length; k++) {
    if (checkpoint && k % 8 === 0) await checkpoint(k, standing.length)
    if (k > 0) {
      const uncarried = sections[k].filter((section) => !isCarried(section, k))
      for (const section of uncarried) section.alone = false
      if (uncarried.length > 0) standing[k] = engine.union(standing[k], ...uncarried.map(regionOf))
      standing[k] = withoutPinholes(k)
      if (!isEmptyRegion(standing[k])) standUp(k)
    }
    for (const section of sections[k])
      section.stands = section.alone
        ? k === 0 || (section.below?.stands ?? false)
        : isIn(standing[k], section.x, section.y)
  }
  let kept: Region = EMPTY_REGION
  for (let k = standing.length - 1; k >= 0; k--) {
    kept = standing[k] = leading(k, kept)
    if (isEmptyRegion(kept)) starts.delete(k)
    const above = standing[k + 1] ?? EMPTY_REGION
    const goesOn = new Set((sections[k + 1] ?? []).map(({ below }) => below))
    for (const section of sections[k]) {
      const { x, y } = section
      if (!section.alone) section.needed = section.stands && isIn(kept, x, y)
      // A crown may stand on a single branch.
      else if (!goesOn.has(section) && bears(section, above)) section.needed = true
      if (section.needed && section.stands && section.below) section.below.needed = true
    }
  }
  const wide = standing.map((region, k) => withCrowns(region, sections[k]))
  return { wide, rounds: sections.map(roundsOf), starts, waiting: landing.waiting }

  /**
   * Whether a section that stands alone need not be looked at: all of it is carried, or the branch is gone
   * below.
   */
  function isCarried(section: Section, k: number): boolean {
    const { alone, below } = section
    if (!alone || !below || below.alone || !below.stands) return true
    const rim = rimOf(section, ground.stepMm)
    for (let p = 0; p < rim.length; p += 2) if (!isIn(standing[k - 1], rim[p], rim[p + 1])) return false
    return true
  }

  /** Cuts a level down to what the one below carries, or the part. */
  function standUp(k: number): void {
    const wanted = standing[k]
    const below = standing[k - 1]
    if (wanted === below) return
    // Sections that stand alone below, and no longer here.
    const goesOn = new Set(sections[k].filter(({ alone }) => alone).map(({ below: carrier }) => carrier))
    const carriers = sections[k - 1].filter(
      (section) => section.alone && section.stands && !goesOn.has(section),
    )
    const carried = [
      isEmptyRegion(below) ? EMPTY_REGION : engine.grow(below, ground.stepMm, 'round', HAIR_MM),
      ...carriers.map((section) => grown(section, ground.stepMm)),
    ]
    const left = engine.minusAll([wanted], carried)
    if (isHair(left, HAIR_MM, engine)) return
    const onPart = ground.onPart ? outlines.at(k - ground.freeBelow(k) - 1) : EMPTY_REGION
    if (!isEmptyRegion(onPart)) {
      const start = engine.common(left, onPart)
      if (regionAreaMm2(start) > HAIR_MM) starts.set(k, start)
    }
    const hanging = engine.minusAll([left], [onPart, ...landing.awaited(k)])
    const own = isEmptyRegion(hanging) ? wanted : engine.fewer(engine.minus(wanted, hanging), HAIR_MM / 2)
    standing[k] = landing.laid(k, own, starts.get(k), carried)
  }

  /**
   * A level without the small holes that are left where crowns meet: a wall around one would stand on air.
   * Holes that are there for the part, or for other supports, stay.
   */
  function withoutPinholes(k: number): Region {
    const region = standing[k]
    const { xyMm, starts: from } = region
    const all = Array.from({ length: ringCount(region) }, (_, r) => ringOf(region, r))
    const areas = all.map((_, r) => ringAreaMm2(xyMm, from[r], from[r + 1]))
    const isPinhole = all.map((ring, r) => areas[r] < 0 && areas[r] > -PINHOLE_MM2 && !isTaken(k, ring))
    if (!isPinhole.includes(true)) return region
    // What stands in a hole is part of what fills it.
    const filled = regionFromRings(all.filter((_, r) => isPinhole[r]))
    const isWithin = ([x, y]: Float64Array, r: number) =>
      areas[r] > 0 && areas[r] < PINHOLE_MM2 && regionContains(filled, x, y)
    return regionFromRings(all.filter((ring, r) => !isPinhole[r] && !isWithin(ring, r)))
  }

  /** Whether the part, or what else is held there, comes so near to a hole that it may be its reason. */
  function isTaken(k: number, hole: Float64Array): boolean {
    const all = new Set(ground.taken(k))
    for (let level = k - ground.freeBelow(k) - 1; level <= k + ground.freeAbove + 1; level++)
      all.add(outlines.at(level))
    const box = boundsOf(hole)
    const nearMm = ground.sideGapMm + NEAR_MM
    for (const region of all)
      for (const piece of splitPieces(region)) {
        if (!boundsOverlap(boxOf(piece), box, nearMm)) continue
        for (let p = 0; p < hole.length; p += 2)
          if (regionContains(piece, hole[p], hole[p + 1]) || nearSides(piece, hole[p], hole[p + 1], nearMm))
            return true
      }
    return false
  }

  /** The pieces of a level that something stands on. */
  function leading(k: number, aboveIt: Region): Region {
    const region = standing[k]
    if (isEmptyRegion(region) || region === aboveIt) return region
    const top = tops.get(k)?.top ?? EMPTY_REGION
    const upper = [aboveIt, top].flatMap(splitPieces)
    const rounds = (sections[k + 1] ?? []).filter(({ alone, needed, stands }) => alone && needed && stands)
    const pieces = splitPieces(region)
    const needed = pieces.filter(
      (piece) => rounds.some(({ x, y }) => isIn(piece, x, y)) || upper.some((one) => !areApart(piece, one)),
    )
    return needed.length === pieces.length ? region : joinPieces(needed)
  }
}

/** Whether something of a region lies on a branch. */
const bears = (section: Section, region: Region): boolean =>
  splitPieces(region).some((piece) => !areApart(piece, regionOf(section)))

/** A section and everything within a distance of it. */
const grown = ({ x, y, radius, crown }: Section, mm: number): Region =>
  crown ? regionFromRings([hullAround(crown.xyMm, mm)]) : disc(x, y, radius + mm)

/** Places along what of a section must be carried at least: so far inside its rim, towards its branch. */
function rimOf({ x, y, radius, crown }: Section, insideMm: number): number[] {
  if (!crown) return roundRing(x, y, Math.max(0, radius - insideMm))
  const found: number[] = []
  const { xyMm } = crown
  for (let p = 0, q = xyMm.length - 2; p < xyMm.length; q = p, p += 2) {
    const [dx, dy] = [xyMm[p] - xyMm[q], xyMm[p + 1] - xyMm[q + 1]]
    const steps = Math.max(1, Math.ceil(Math.hypot(dx, dy) / RIM_MM))
    for (let n = 0; n < steps; n++) {
      const [rx, ry] = [xyMm[q] + (dx * n) / steps - x, xyMm[q + 1] + (dy * n) / steps - y]
      const share = 1 - insideMm / Math.max(insideMm, Math.hypot(rx, ry))
      found.push(x + rx * share, y + ry * share)
    }
  }
  return found
}

/** A level with the crowns that stand alone in it. */
function withCrowns(region: Region, sections: readonly Section[]): Region {
  const crowns = sections.flatMap(({ crown, alone, stands, needed }) =>
    crown && alone && stands && needed ? [crown] : [],
  )
  if (crowns.length === 0) return region
  return joinPieces([...splitPieces(region), ...crowns])
}

/** Whether a place lies in a region; most of many pieces are passed over. */
function isIn(region: Region, x: number, y: number): boolean {
  for (const piece of splitPieces(region)) {
    const { minX, minY, maxX, maxY } = boxOf(piece)
    if (x >= minX && x <= maxX && y >= minY && y <= maxY && regionContains(piece, x, y)) return true
  }
  return false
}

function roundsOf(sections: readonly Section[]): Float64Array {
  const alone = sections.filter(({ crown, alone: is, stands, needed }) => !crown && is && stands && needed)
  return Float64Array.from(alone.flatMap(({ x, y, radius }) => [x, y, radius]))
}
