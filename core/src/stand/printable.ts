import {
  boxOf,
  EMPTY_REGION,
  isEmptyRegion,
  regionAreaMm2,
  regionPerimeterMm,
  ringCount,
  splitPieces,
  withoutNeedles,
  type Region,
  type RememberingEngine,
} from '../polygon'

/**
 * Corners may stray this far from round; the same as where rings are laid, so that the same question is asked
 * once.
 */
const ARC_MM = 0.01
/** A hair beyond half a line, so that corners of what is kept are kept whole. */
const HAIR_MM = 0.005

/** Needles up to this share of a line's width are cut off first: shrinking hardly shows them. */
const NEEDLE_SHARE = 0.2

/** Less than this is no sliver but the tip of a corner. */
const LEAST_SLIVER_MM2 = 0.002

export type Printable = {
  /** What of a region can hold a line. */
  readonly kept: Region
  /** What is narrower. */
  readonly slivers: Region
}

/** Pieces looked at before, by the width of a line. */
const known = new WeakMap<Region, Map<number, Printable>>()

/** Divides a region into what can hold a line and what is narrower than one. */
export function printable(region: Region, lineWidthMm: number, engine: RememberingEngine): Printable {
  if (isEmptyRegion(region)) return { kept: EMPTY_REGION, slivers: EMPTY_REGION }
  const pieces = splitPieces(region)
  const parts = pieces.map((piece) => {
    let divided = known.get(piece)
    if (!divided) known.set(piece, (divided = new Map()))
    let part = divided.get(lineWidthMm)
    if (!part) divided.set(lineWidthMm, (part = divide(piece, lineWidthMm, engine)))
    return part
  })
  if (parts.every(({ kept }, i) => kept === pieces[i])) return { kept: region, slivers: EMPTY_REGION }
  const all = (which: keyof Printable) => engine.joined(parts.flatMap((part) => piecesOf(part[which])))
  return { kept: all('kept'), slivers: all('slivers') }
}

const piecesOf = (region: Region) => (isEmptyRegion(region) ? [] : splitPieces(region))

function divide(whole: Region, lineWidthMm: number, engine: RememberingEngine): Printable {
  if (isTooSmall(whole, lineWidthMm)) return { kept: EMPTY_REGION, slivers: whole }
  const needleMm = NEEDLE_SHARE * lineWidthMm
  const piece = needleless(whole, needleMm, engine)
  const half = lineWidthMm / 2
  const rim = engine.grow(piece, -half, 'miter', ARC_MM)
  if (isEmptyRegion(rim)) return { kept: EMPTY_REGION, slivers: whole }
  const asItIs = () => ({ kept: piece, slivers: piece === whole ? EMPTY_REGION : engine.minus(whole, piece) })
  // What shrinks away takes its outline with it.
  const lost = regionPerimeterMm(piece) - regionPerimeterMm(rim)
  const asMany = ringCount(rim) === ringCount(piece)
  if (asMany && lost <= lostAtCorners(piece, half) + half) return asItIs()
  const opened = engine.grow(rim, half + HAIR_MM, 'miter', ARC_MM)
  const regained = regionAreaMm2(opened) - HAIR_MM * regionPerimeterMm(opened)
  // A wall as thin as a hair has no area to speak of, but the rim has lost the hole that it closed.
  if (asMany && regained > regionAreaMm2(piece) - LEAST_SLIVER_MM2) return asItIs()
  const slivers = engine.minus(whole, opened)
  if (isEmptyRegion(slivers)) return asItIs()
  const kept = needleless(engine.common(piece, opened), needleMm, engine)
  const pieces = piecesOf(kept)
  // What was narrower is not in the rim of the whole either: the rim of what is kept is the same.
  if (pieces.length === 1) engine.tellGrown(kept, -half, 'miter', ARC_MM, rim)
  for (const one of pieces) known.set(one, new Map([[lineWidthMm, { kept: one, slivers: EMPTY_REGION }]]))
  return { kept, slivers }
}

/** Whether a circle as wide as a line is surely larger than a piece: most that is left over is. */
function isTooSmall(piece: Region, lineWidthMm: number): boolean {
  const { minX, minY, maxX, maxY } = boxOf(piece)
  const widthMm = lineWidthMm - HAIR_MM
  return Math.min(maxX - minX, maxY - minY) < widthMm || regionAreaMm2(piece) < (Math.PI / 4) * widthMm ** 2
}

/** Joining what a needle cut open may leave another one. */
const MOST_CUTS = 4

/**
 * Where a needle ends at a hole, cutting it off leaves the hole sticking out: an outline that begins with a
 * hole would be taken for inside out, and shrink to nothing.
 */
function needleless(region: Region, widthMm: number, engine: RememberingEngine): Region {
  let whole = region
  for (let n = 0; n < MOST_CUTS; n++) {
    const cut = withoutNeedles(whole, widthMm)
    if (cut === whole || ringCount(cut) < 2) return cut
    whole = engine.clean(cut, 'positive')
  }
  return whole
}

/** Corners that are sharper than a third of a turn lose no more than those. */
const SHARPEST = Math.sqrt(3)

/** What shrinking takes off the length of outlines at corners; those that point inwards give some back. */
function lostAtCorners({ xyMm, starts }: Region, byMm: number): number {
  let sum = 0
  for (let r = 0; r + 1 < starts.length; r++) {
    const last = starts[r + 1] - 1
    let [x, y] = [xyMm[2 * last], xyMm[2 * last + 1]]
    let [ux, uy] = [x - xyMm[2 * last - 2], y - xyMm[2 * last - 1]]
    for (let p = starts[r]; p <= last; p++) {
      const [vx, vy] = [xyMm[2 * p] - x, xyMm[2 * p + 1] - y]
      const across = ux * vy - uy * vx
      // Tangent of half the turn.
      const turn = across / (Math.sqrt((ux * ux + uy * uy) * (vx * vx + vy * vy)) + ux * vx + uy * vy)
      sum += Math.abs(turn) <= SHARPEST ? turn : across >= 0 ? SHARPEST : -SHARPEST
      ;[x, y, ux, uy] = [x + vx, y + vy, vx, vy]
    }
  }
  return 2 * byMm * sum
}
