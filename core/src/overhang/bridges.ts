import type { Layer } from '../slice'
import { boundsOf, hatch, regionAreaMm2, regionPerimeterMm, ringCount, ringOf, type Region } from '../polygon'
import { distanceToSides } from './distance'

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
  readonly atMm: readonly [number, number]
}

/** An end of a line within this distance of the layer below is carried by it. */
const CARRIED_MM = 0.02
/** Share of all lines that must be carried at both ends; the rest is corners and rounding. */
const CARRIED_SHARE = 0.97
const LINES_TRIED = 24

/**
 * Whether a hanging piece is a bridge, and how long: lines are laid across it in the directions of its own edges and a few others; in a
 * direction where all of them end on the layer below at both ends, the longest is the span. The shortest such span counts.
 * @returns null when no direction carries it
 */
export function bridgeOf(piece: Region, layer: Layer, below: Region, lineWidthMm: number, freeSpanMm: number): Bridge | null {
  if (ringCount(piece) === 0) return null
  const areaMm2 = regionAreaMm2(piece)
  // The step of a slope is a strip narrower than a line: no line can run across it, let alone be carried by it.
  if ((2 * areaMm2) / regionPerimeterMm(piece) < lineWidthMm / 2) return null
  let best: { spanMm: number; directionDeg: number } | null = null
  for (const directionDeg of directionsOf(piece)) {
    const spanMm = carriedSpan(piece, below, directionDeg, lineWidthMm, best?.spanMm ?? Infinity)
    if (spanMm !== null) best = { spanMm, directionDeg }
  }
  if (!best) return null
  const ring = ringOf(piece, 0)
  return { layerIndex: layer.index, zMm: layer.bottomMm, ...best, widthMm: areaMm2 / best.spanMm, areaMm2, free: best.spanMm <= freeSpanMm + 2 * CARRIED_MM, atMm: middleOf(ring) }
}

/** Longest line in a direction when all are carried and it is shorter than `lessThan`; null otherwise. */
function carriedSpan(piece: Region, below: Region, directionDeg: number, lineWidthMm: number, lessThan: number): number | null {
  const box = boundsOf(piece.xyMm)
  const all = hatch(piece, directionDeg, Math.max(lineWidthMm, Math.hypot(box.maxX - box.minX, box.maxY - box.minY) / LINES_TRIED))
  const lines = all.length / 4
  if (lines === 0) return null
  const stride = Math.max(1, Math.floor(lines / (2 * LINES_TRIED)))
  let total = 0
  for (let s = 0; s < lines; s += stride) total += lengthOf(all, s)
  let loose = 0
  let longest = 0
  for (let s = 0; s < lines; s += stride) {
    const length = lengthOf(all, s)
    const carried = distanceToSides(below, all[4 * s], all[4 * s + 1]) <= CARRIED_MM && distanceToSides(below, all[4 * s + 2], all[4 * s + 3]) <= CARRIED_MM
    if (!carried) loose += length
    else longest = Math.max(longest, length)
    if (loose > (1 - CARRIED_SHARE) * total || longest >= lessThan) return null
  }
  return longest
}

const lengthOf = (lines: Float64Array, s: number) => Math.hypot(lines[4 * s + 2] - lines[4 * s], lines[4 * s + 3] - lines[4 * s + 1])

/** Directions of the longest edges and across them, then every 15 degrees. */
function directionsOf(piece: Region): number[] {
  const byDegree = new Map<number, number>()
  for (let r = 0; r < ringCount(piece); r++) {
    const ring = ringOf(piece, r)
    for (let i = 0; i < ring.length; i += 2) {
      const j = (i + 2) % ring.length
      const [dx, dy] = [ring[j] - ring[i], ring[j + 1] - ring[i + 1]]
      const direction = Math.round(((((Math.atan2(dy, dx) * 180) / Math.PI) % 180) + 180) * 4) / 4 // prettier-ignore
      byDegree.set(direction % 180, (byDegree.get(direction % 180) ?? 0) + Math.hypot(dx, dy))
    }
  }
  const longest = [...byDegree].sort(([, a], [, b]) => b - a).slice(0, 4).map(([direction]) => direction) // prettier-ignore
  const tried = longest.flatMap((direction) => [direction, (direction + 90) % 180])
  for (let direction = 0; direction < 180; direction += 15) tried.push(direction)
  return [...new Set(tried)]
}

function middleOf(ring: Float64Array): [number, number] {
  let [x, y] = [0, 0]
  for (let i = 0; i < ring.length; i += 2) {
    x += ring[i]
    y += ring[i + 1]
  }
  return [(2 * x) / ring.length, (2 * y) / ring.length]
}
