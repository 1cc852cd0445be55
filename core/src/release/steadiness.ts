import {
  boundsOverlap,
  boxOf,
  isEmptyRegion,
  nearSides,
  regionContains,
  regionPerimeterMm,
  ringCount,
  ringOf,
  splitPieces,
  type Region,
} from '../polygon'
import { BED_HOLDS_N_MM2, bentByN, NOZZLE_PUSHES_N } from '../stand'
import { insideOf } from './insideOf'
import { legsOf, type Leg, type Middle } from './legs'
import type { StandPiece } from './standPieces'

/** A push at the top of what stands tips it off the bed, or bends it by a line's width. */
export type Pushed = {
  readonly heightMm: number
  /** Pushes that do it, in N; none tips off the bed what rests on the part. */
  readonly tipsN: number
  readonly bendsN: number
  /** What of it lies on the bed, without footing; nothing of what rests on the part. */
  readonly outlines: readonly Region[]
  /** Its middle. */
  readonly section: Section
}

/** How steady a stand is as a whole, and each of its legs until it holds together with others. */
export type Steadiness = Pushed & { readonly legs: readonly Pushed[] }

export type Section = Moments & { readonly perimeterMm: number }

type Pass = {
  readonly role: string
  /** Which decisions of holding lay it. */
  readonly holding: number
  readonly bottomMm: number
  readonly topMm: number
  readonly region: Region
}

/**
 * Push that tips a stand off the bed, in N.
 * Source: a footprint holds the moment sigma W, W = I / c about its weaker axis.
 * @param footprint all that stands and falls with it
 */
export const tippedByN = (footprint: readonly Region[], heightMm: number): number =>
  (BED_HOLDS_N_MM2 * momentsOf(footprint).modulusMm3) / heightMm

export type Moments = {
  readonly areaMm2: number
  /** Second moment about the weaker axis through the middle. */
  readonly inertiaMm4: number
  /** That over the farthest point from the axis. */
  readonly modulusMm3: number
}

/** Moments of some outlines with their holes. Source: Green's theorem, edge by edge. */
export function momentsOf(regions: readonly Region[]): Moments {
  let [area, sx, sy, xx, yy, xy] = [0, 0, 0, 0, 0, 0]
  const rings = regions.flatMap((region) =>
    Array.from({ length: ringCount(region) }, (_, r) => ringOf(region, r)),
  )
  for (const ring of rings)
    for (let p = 0, q = ring.length - 2; p < ring.length; q = p, p += 2) {
      const [ax, ay, bx, by] = [ring[q], ring[q + 1], ring[p], ring[p + 1]]
      const cross = ax * by - bx * ay
      area += cross / 2
      sx += ((ax + bx) * cross) / 6
      sy += ((ay + by) * cross) / 6
      xx += ((ax * ax + ax * bx + bx * bx) * cross) / 12
      yy += ((ay * ay + ay * by + by * by) * cross) / 12
      xy += ((2 * ax * ay + ax * by + bx * ay + 2 * bx * by) * cross) / 24
    }
  if (area <= 0) return { areaMm2: 0, inertiaMm4: 0, modulusMm3: 0 }
  const [cx, cy] = [sx / area, sy / area]
  const [ixx, iyy, ixy] = [xx - area * cx * cx, yy - area * cy * cy, xy - area * cx * cy]
  const half = (ixx - iyy) / 2
  const inertia = (ixx + iyy) / 2 - Math.hypot(half, ixy)
  // The direction in which it reaches least.
  const angle = 0.5 * Math.atan2(2 * ixy, ixx - iyy) + Math.PI / 2
  const [dx, dy] = [Math.cos(angle), Math.sin(angle)]
  let far = 1e-9
  for (const ring of rings)
    for (let p = 0; p < ring.length; p += 2)
      far = Math.max(far, Math.abs((ring[p] - cx) * dx + (ring[p + 1] - cy) * dy))
  return { areaMm2: area, inertiaMm4: inertia, modulusMm3: inertia / far }
}

/**
 * How steady each stand is, by what is printed of it. How well one that rests on the part is held there
 * nobody knows: it is taken to be held, and asked only what bends it.
 * @param pieces of the grid
 * @param passes from below
 * @param shareOf plastic in a section that some decisions of holding lay
 */
export function steadinessOfStands(
  pieces: readonly StandPiece[],
  passes: readonly Pass[],
  lineWidthMm: number,
  shareOf: (section: Section, holding: number) => number,
): Map<StandPiece, Steadiness> {
  const found = new Map<StandPiece, Steadiness>()
  const onBed = pieces.filter((piece) => piece.onBed)
  const outlinesAt = (zMm: number, isAsked: (role: string) => boolean) =>
    passes
      .filter(
        ({ role, bottomMm, topMm, region }) =>
          isAsked(role) && bottomMm <= zMm && topMm > zMm && !isEmptyRegion(region),
      )
      .flatMap(({ region, holding }) => splitPieces(region).map((outline) => ({ outline, holding })))
  /** What of a piece is at some height; whose the others are is not asked where they are far from it. */
  const sectionOf = (piece: StandPiece, zMm: number): Middle | null => {
    const besideMm = BESIDE_CELLS * piece.cellMm
    const own = outlinesAt(zMm, isStand).filter(({ outline }) => {
      const at = [...insideOf(outline), zMm] as const
      return piece.distanceMm(at, besideMm) < besideMm && nearestTo(at, pieces) === piece
    })
    return own.length > 0 ? { outlines: own.map(({ outline }) => outline), holding: own[0].holding } : null
  }
  const own = new Map<StandPiece, { readonly outlines: Region[]; readonly holding: number }>()
  for (const { outline, holding } of onBed.length > 0 ? outlinesAt(ON_BED_MM, isStand) : []) {
    const owner = nearestTo([...insideOf(outline), ON_BED_MM], onBed)
    const known = own.get(owner)
    if (known) known.outlines.push(outline)
    else own.set(owner, { outlines: [outline], holding })
  }
  const legs = [...own.values()].some(({ outlines }) => outlines.length > 1)
    ? legsOf(passes.filter(({ role }) => isStand(role)))
    : []
  const footing = outlinesAt(ON_BED_MM, (role) => role === 'footing').map(({ outline }) => outline)
  const feet = onTheirFeet(new Map([...own].map(([piece, { outlines }]) => [piece, outlines])), footing)
  const legFeet = onTheirFeet(
    new Map(legs.flatMap(({ outlines }) => outlines).map((outline) => [outline, [outline]])),
    footing,
  )
  const pushed = ({ heightMm, outlines, middles }: Leg, foot: readonly Region[] | null): Pushed => {
    const bent = middles.map(({ outlines: there, holding }) => {
      const perimeterMm = there.reduce((sum, outline) => sum + regionPerimeterMm(outline), 0)
      const section = { ...momentsOf(there), perimeterMm }
      return { section, bendsN: bentByN(section, heightMm, lineWidthMm, shareOf(section, holding)) }
    })
    const weakest = bent.reduce((one, other) => (other.bendsN < one.bendsN ? other : one))
    return { heightMm, outlines, tipsN: foot ? tippedByN(foot, heightMm) : Infinity, ...weakest }
  }
  for (const [piece, standing] of own) {
    const { outlines } = standing
    const heightMm = topOf(piece, passes)
    const middle = sectionOf(piece, heightMm / 2) ?? standing
    found.set(piece, {
      ...pushed({ heightMm, outlines, middles: [middle] }, feet.get(piece)!),
      legs: legs
        .filter((leg) => outlines.includes(leg.outlines[0]))
        .map((leg) => pushed(leg, [...new Set(leg.outlines.flatMap((outline) => legFeet.get(outline)!))])),
    })
  }
  for (const piece of pieces) {
    if (piece.onBed) continue
    const topMm = topOf(piece, passes)
    const heightMm = Math.min(piece.heightMm, topMm)
    const middle = sectionOf(piece, topMm - heightMm / 2)
    if (middle) found.set(piece, { ...pushed({ heightMm, outlines: [], middles: [middle] }, null), legs: [] })
  }
  return found
}

/** All of a stand that a nozzle may well push over or bend: itself, or legs of it. */
export const wavering = (steady: Steadiness): Pushed[] =>
  [steady, ...steady.legs].filter((pushed) => holdsN(pushed) < NOZZLE_PUSHES_N)

/** The push that tips or bends what stands, in N. */
const holdsN = ({ tipsN, bendsN }: Pushed): number => Math.min(tipsN, bendsN)

/** The least push that tips or bends a stand, or a leg of it while it stands alone, in N. */
export const leastHeldN = (steady: Steadiness): number => Math.min(holdsN(steady), ...steady.legs.map(holdsN))

const ON_BED_MM = 1e-3
const isStand = (role: string) => role === 'stand' || role === 'interface'

/** Footing that begins this near to a stand is its own. */
const TOUCHES_MM = 0.02

/** What a push that a nozzle may well give does to a stand, in words; null where it stands that. */
export function unsteadiness(steady: Steadiness): string | null {
  const weak = wavering(steady)
  if (weak.length === 0) return null
  const weakest = weak.reduce((a, b) => (holdsN(b) < holdsN(a) ? b : a))
  if (weakest === steady) return does(steady, 'it')
  const legs = weak.filter((one) => one !== steady).length
  const leg = legs === 1 ? 'a leg of it' : `one of its ${legs} weak legs`
  return `${does(weakest, leg)}, which stands alone until it is ${Math.round(weakest.heightMm)} mm tall`
}

function does(pushed: Pushed, what: string): string {
  const so = pushed.tipsN <= pushed.bendsN ? `tips ${what} off the bed` : `bends ${what} by a line’s width`
  // Rounded down: it never reads as the push that a stand would have to hold.
  const pushN = (Math.floor(holdsN(pushed) * 100) / 100).toFixed(2)
  return `a nozzle that pushes with ${pushN} N at its top ${so}`
}

/**
 * All that tips with each stand or leg: what lies on the bed of it, and of what stands on the same footing.
 */
function onTheirFeet<T>(
  own: ReadonlyMap<T, readonly Region[]>,
  footing: readonly Region[],
): Map<T, readonly Region[]> {
  let feet = [...own].map(([piece, outlines]) => ({ pieces: [piece], outlines }))
  for (const ring of footing) {
    const on = feet.filter(({ outlines }) => outlines.some((outline) => touches(outline, ring)))
    if (on.length === 0) continue
    feet = feet.filter((foot) => !on.includes(foot))
    feet.push({
      pieces: on.flatMap(({ pieces }) => pieces),
      outlines: [...on.flatMap(({ outlines }) => outlines), ring],
    })
  }
  return new Map(feet.flatMap(({ pieces, outlines }) => pieces.map((piece) => [piece, outlines] as const)))
}

function touches(outline: Region, ring: Region): boolean {
  if (!boundsOverlap(boxOf(outline), boxOf(ring), TOUCHES_MM)) return false
  const { xyMm } = outline
  for (let p = 0; p < xyMm.length; p += 2) if (nearSides(ring, xyMm[p], xyMm[p + 1], TOUCHES_MM)) return true
  return false
}

/** Where a stand ends, to the layer: its grid knows it to a cell only. */
function topOf(piece: StandPiece, passes: readonly Pass[]): number {
  const [x, y] = piece.highestMm
  let top = 0
  for (const { role, topMm, region } of passes)
    if (
      role !== 'footing' &&
      topMm > top &&
      Math.abs(topMm - piece.highestMm[2]) < piece.cellMm * 1.5 &&
      regionContains(region, x, y)
    )
      top = topMm
  return top > 0 ? top : piece.highestMm[2] + piece.cellMm / 2
}

/** A place of a stand lies in one of its cells, or beside it: so many cells away at most. */
const BESIDE_CELLS = 2

function nearestTo(at: readonly [number, number, number], pieces: readonly StandPiece[]): StandPiece {
  if (pieces.length === 1) return pieces[0]
  for (const withinMm of [BESIDE_CELLS * pieces[0].cellMm, Infinity]) {
    let [best, nearest]: [StandPiece | null, number] = [null, withinMm]
    for (const piece of pieces) {
      const d = piece.distanceMm(at, nearest)
      if (d < nearest) [best, nearest] = [piece, d]
    }
    if (best) return best
  }
  return pieces[0]
}
