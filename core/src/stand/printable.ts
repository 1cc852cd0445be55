import {
  EMPTY_REGION,
  isEmptyRegion,
  regionAreaMm2,
  regionPerimeterMm,
  ringCount,
  splitPieces,
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
  const parts = splitPieces(region).map((piece) => {
    let divided = known.get(piece)
    if (!divided) known.set(piece, (divided = new Map()))
    let part = divided.get(lineWidthMm)
    if (!part) divided.set(lineWidthMm, (part = divide(piece, lineWidthMm, engine)))
    return part
  })
  if (parts.every(({ slivers }) => isEmptyRegion(slivers))) return { kept: region, slivers: EMPTY_REGION }
  const all = (which: keyof Printable) => engine.joined(parts.flatMap((part) => piecesOf(part[which])))
  return { kept: all('kept'), slivers: all('slivers') }
}

const piecesOf = (region: Region) => (isEmptyRegion(region) ? [] : splitPieces(region))

function divide(piece: Region, lineWidthMm: number, engine: RememberingEngine): Printable {
  const half = lineWidthMm / 2
  const rim = engine.grow(piece, -half, 'miter', ARC_MM)
  if (isEmptyRegion(rim)) return { kept: EMPTY_REGION, slivers: piece }
  const whole = { kept: piece, slivers: EMPTY_REGION }
  // What shrinks away takes its outline with it; corners alone take no more than this.
  const lost = regionPerimeterMm(piece) - regionPerimeterMm(rim)
  if (ringCount(rim) === ringCount(piece) && lost <= 8 * half * ringCount(piece) + half) return whole
  const opened = engine.grow(rim, half + HAIR_MM, 'miter', ARC_MM)
  const regained = regionAreaMm2(opened) - HAIR_MM * regionPerimeterMm(opened)
  if (regained > regionAreaMm2(piece) - LEAST_SLIVER_MM2) return whole
  const slivers = engine.minus(piece, opened)
  if (isEmptyRegion(slivers)) return whole
  const kept = engine.minus(piece, slivers)
  const pieces = piecesOf(kept)
  // What was narrower is not in the rim of the whole either: the rim of what is kept is the same.
  if (pieces.length === 1) engine.tellGrown(kept, -half, 'miter', ARC_MM, rim)
  for (const one of pieces) known.set(one, new Map([[lineWidthMm, { kept: one, slivers: EMPTY_REGION }]]))
  return { kept, slivers }
}
