import {
  isEmptyRegion,
  regionAreaMm2,
  regionContains,
  regionPerimeterMm,
  ringCount,
  ringOf,
  splitPieces,
  type Region,
} from '../polygon'
import { insideOf } from './insideOf'
import type { StandPiece } from './standPieces'

/**
 * Starting guesses: what a nozzle pushes with at the top of a stand, what the bed holds a first layer with,
 * how stiff printed plastic is.
 */
export const NOZZLE_PUSHES_N = 1
const BED_HOLDS_N_MM2 = 1
const STIFF_N_MM2 = 2000

/**
 * Which of two things a push at the top does first: it tips the stand off the bed, or it bends it by a line's
 * width.
 */
export type Steadiness = {
  readonly heightMm: number
  /** Push at its top that does it, in N. */
  readonly holdsN: number
  readonly gives: 'tips' | 'bends'
  /**
   * Further lines of footing around what lies on the bed with which it would not tip; null when it does not,
   * or when no footing helps.
   */
  readonly footingLines: number | null
}

type Pass = {
  readonly role: string
  /** Which decisions of holding lay it. */
  readonly holding: number
  readonly bottomMm: number
  readonly topMm: number
  readonly region: Region
}

const MOST_FOOTING = 30

/**
 * How steady a stand on the bed is.
 * Source: a footprint holds the moment sigma W, W = I / c about its weaker axis; a cantilever gives way by F
 * h^3 / (3 E I).
 * @param footprint all of it that lies on the bed
 * @param section of its middle
 * @param plasticShare of the section that is plastic
 */
export function steadinessOf(
  footprint: readonly Region[],
  section: readonly Region[],
  heightMm: number,
  lineWidthMm: number,
  plasticShare: number,
): Steadiness {
  const foot = momentsOf(footprint)
  const middle = momentsOf(section)
  const tipsN = (BED_HOLDS_N_MM2 * foot.modulusMm3) / heightMm
  const bendsN = (3 * STIFF_N_MM2 * middle.inertiaMm4 * plasticShare * lineWidthMm) / heightMm ** 3
  const gives = tipsN <= bendsN ? 'tips' : 'bends'
  return {
    heightMm,
    holdsN: Math.min(tipsN, bendsN),
    gives,
    footingLines:
      gives === 'tips' && tipsN < NOZZLE_PUSHES_N ? footingFor(foot, heightMm, lineWidthMm) : null,
  }
}

/**
 * Fewest lines around a footprint that hold it, the footprint taken as a rectangle of the same area and
 * moment.
 */
function footingFor({ areaMm2, inertiaMm4 }: Moments, heightMm: number, lineWidthMm: number): number | null {
  const thick = Math.sqrt((12 * inertiaMm4) / areaMm2)
  const long = areaMm2 / thick
  for (let lines = 1; lines <= MOST_FOOTING; lines++) {
    const by = 2 * lines * lineWidthMm
    if ((BED_HOLDS_N_MM2 * ((long + by) * (thick + by) ** 2)) / 6 >= NOZZLE_PUSHES_N * heightMm) return lines
  }
  return null
}

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
 * How steady each stand on the bed is, by what is printed of it.
 * @param pieces of the grid; those that are not on the bed stand on the part and are left out
 * @param passes from below
 * @param shareOf plastic in a section that some decisions of holding lay
 */
export function steadinessOfStands(
  pieces: readonly StandPiece[],
  passes: readonly Pass[],
  lineWidthMm: number,
  shareOf: (areaMm2: number, perimeterMm: number, holding: number) => number,
): Map<StandPiece, Steadiness> {
  const found = new Map<StandPiece, Steadiness>()
  const onBed = pieces.filter((piece) => piece.onBed)
  if (onBed.length === 0) return found
  const ownedAt = (zMm: number, roles: readonly string[]) => {
    const owned = new Map<StandPiece, { readonly outlines: Region[]; readonly holding: number }>()
    for (const { role, holding, bottomMm, topMm, region } of passes) {
      if (!roles.includes(role) || bottomMm > zMm || topMm <= zMm || isEmptyRegion(region)) continue
      for (const outline of splitPieces(region)) {
        const owner = nearestTo([...insideOf(outline), zMm], onBed)
        const known = owned.get(owner)
        if (known) known.outlines.push(outline)
        else owned.set(owner, { outlines: [outline], holding })
      }
    }
    return owned
  }
  const sum = (outlines: readonly Region[], of: (outline: Region) => number) =>
    outlines.reduce((all, outline) => all + of(outline), 0)
  const feet = ownedAt(1e-3, ['stand', 'interface', 'footing'])
  for (const piece of onBed) {
    const foot = feet.get(piece)
    if (!foot) continue
    const heightMm = topOf(piece, passes)
    const { outlines, holding } = ownedAt(heightMm / 2, ['stand', 'interface']).get(piece) ?? foot
    const share = shareOf(sum(outlines, regionAreaMm2), sum(outlines, regionPerimeterMm), holding)
    found.set(piece, steadinessOf(foot.outlines, outlines, heightMm, lineWidthMm, share))
  }
  return found
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
  return top > 0 ? top : piece.heightMm
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
