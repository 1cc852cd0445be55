import type { Layer } from '../slice'
import {
  crossingsOf,
  headingOf,
  nearSides,
  regionAreaMm2,
  regionPerimeterMm,
  ringCount,
  ringOf,
  type Heading,
  type PolygonEngine,
  type Region,
} from '../polygon'
import { degrees } from '../units'

/** A piece of a layer's underside that is carried on two opposite sides. */
export type Bridge = {
  readonly layerIndex: number
  readonly zMm: number
  /** From carrier to carrier. */
  readonly spanMm: number
  readonly widthMm: number
  readonly areaMm2: number
  /** Direction of its lines, degrees from +x. */
  readonly directionDeg: number
  /** Whether it stays free: the span is no longer than the free span. */
  readonly free: boolean
  /** Its middle. */
  readonly atMm: readonly [number, number]
}

/** An end of a line within this distance of the layer below is carried by it. */
const CARRIED_MM = 0.02
/** Share of all lines that must be carried at both ends; the rest is corners and rounding. */
const CARRIED_SHARE = 0.97
const LINES_TRIED = 24

/**
 * Whether a hanging piece is a bridge, and how long: lines are laid across it in the directions of its own
 * edges and a few others; in a direction where all of them end on the layer below at both ends, the longest
 * is the span. The shortest such span counts.
 * @returns null when no direction carries it
 */
export function bridgeOf(
  whole: Region,
  layer: Layer,
  below: Region,
  lineWidthMm: number,
  freeSpanMm: number,
  engine: PolygonEngine,
): Bridge | null {
  if (ringCount(whole) === 0) return null
  const areaMm2 = regionAreaMm2(whole)
  // The step of a slope is a strip narrower than a line: no line can run across it, let alone be carried by
  // it.
  if ((2 * areaMm2) / regionPerimeterMm(whole) < lineWidthMm / 2) return null
  const piece = engine.thin(whole, CARRIED_MM / 4)
  let best: { spanMm: number; directionDeg: number } | null = null
  for (const directionDeg of directionsOf(piece)) {
    const spanMm = carriedSpan(
      piece,
      areaMm2,
      below,
      headingOf(directionDeg),
      lineWidthMm,
      best?.spanMm ?? Infinity,
    )
    if (spanMm !== null) best = { spanMm, directionDeg }
  }
  if (!best) return null
  return {
    layerIndex: layer.index,
    zMm: layer.bottomMm,
    ...best,
    widthMm: areaMm2 / best.spanMm,
    areaMm2,
    free: best.spanMm <= freeSpanMm + 2 * CARRIED_MM,
    atMm: middleOf(piece, headingOf(best.directionDeg)),
  }
}

/** Longest line in a direction when all are carried and it is shorter than `lessThan`; null otherwise. */
function carriedSpan(
  piece: Region,
  areaMm2: number,
  below: Region,
  heading: Heading,
  lineWidthMm: number,
  lessThan: number,
): number | null {
  const { cos, sin } = heading
  let low = Infinity
  let high = -Infinity
  for (let p = 0; p < piece.xyMm.length; p += 2) {
    const across = piece.xyMm[p + 1] * cos - piece.xyMm[p] * sin
    if (across < low) low = across
    if (across > high) high = across
  }
  const lines = Math.max(1, Math.min(LINES_TRIED, Math.floor((high - low) / lineWidthMm)))
  const gapMm = (high - low) / lines
  const mostLoose = ((1 - CARRIED_SHARE) * areaMm2) / gapMm
  const carried = (along: number, across: number) =>
    nearSides(below, along * cos - across * sin, along * sin + across * cos, CARRIED_MM)
  let loose = 0
  let longest = 0
  // From coarse to fine: what is not carried mostly shows on the first lines, and the others need not be
  // laid.
  for (const from of [2, 0, 1, 3])
    for (let line = from; line < lines; line += 4) {
      const across = low + (line + 0.5) * gapMm
      const ends = crossingsOf(piece, heading, across)
      for (let i = 0; i + 1 < ends.length; i += 2) {
        const length = ends[i + 1] - ends[i]
        if (!carried(ends[i], across) || !carried(ends[i + 1], across)) loose += length
        else longest = Math.max(longest, length)
        if (loose > mostLoose || longest >= lessThan) return null
      }
    }
  return longest > 0 ? longest : null
}

/** Directions of the longest edges and across them, then every 15 degrees. */
function directionsOf(piece: Region): number[] {
  const byQuarterDegree = new Float64Array(720)
  for (let r = 0; r < ringCount(piece); r++) {
    const ring = ringOf(piece, r)
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [dx, dy] = [ring[i] - ring[j], ring[i + 1] - ring[j + 1]]
      byQuarterDegree[(Math.round(4 * degrees(Math.atan2(dy, dx))) + 1440) % 720] += Math.sqrt(
        dx * dx + dy * dy,
      )
    }
  }
  const tried: number[] = []
  for (let pick = 0; pick < 4; pick++) {
    let most = 0
    for (let k = 1; k < 720; k++) if (byQuarterDegree[k] > byQuarterDegree[most]) most = k
    if (byQuarterDegree[most] === 0) break
    byQuarterDegree[most] = 0
    tried.push(most / 4, (most / 4 + 90) % 180)
  }
  for (let direction = 0; direction < 180; direction += 15) tried.push(direction)
  return [...new Set(tried)]
}

/** Middle of the box around a region whose sides run along and across a heading. */
function middleOf({ xyMm }: Region, { cos, sin }: Heading): [number, number] {
  let [left, right, low, high] = [Infinity, -Infinity, Infinity, -Infinity]
  for (let p = 0; p < xyMm.length; p += 2) {
    const [along, across] = [xyMm[p] * cos + xyMm[p + 1] * sin, xyMm[p + 1] * cos - xyMm[p] * sin]
    left = Math.min(left, along)
    right = Math.max(right, along)
    low = Math.min(low, across)
    high = Math.max(high, across)
  }
  const [along, across] = [(left + right) / 2, (low + high) / 2]
  return [along * cos - across * sin, along * sin + across * cos]
}
