import { regionFromRings, type Region } from '../../polygon'
import { roundRing } from './section'

/** The convex hull of points, x and y by turns, counter-clockwise. Source: the monotone chain. */
export function hullOf(points: readonly number[]): number[] {
  const order = Array.from({ length: points.length / 2 }, (_, i) => i).sort(
    (a, b) => points[2 * a] - points[2 * b] || points[2 * a + 1] - points[2 * b + 1],
  )
  const half = (indices: readonly number[]): number[] => {
    const chain: number[] = []
    for (const i of indices) {
      const x = points[2 * i]
      const y = points[2 * i + 1]
      let n = chain.length
      while (n >= 4) {
        const ax = chain[n - 4]
        const ay = chain[n - 3]
        if ((chain[n - 2] - ax) * (y - ay) - (chain[n - 1] - ay) * (x - ax) > 0) break
        chain.length = n -= 2
      }
      chain.push(x, y)
    }
    chain.length -= 2
    return chain
  }
  return [...half(order), ...half(order.reverse())]
}

/**
 * A hull that reaches as far beyond another one, nearly: both are convex, so their sides go round in turn.
 * Source: the Minkowski sum of convex polygons.
 */
export function hullAround(hull: ArrayLike<number>, byMm: number): number[] {
  const round = roundRing(0, 0, byMm)
  if (hull.length < 6)
    return hullOf(
      Array.from({ length: hull.length / 2 }, (_, i) => roundRing(hull[2 * i], hull[2 * i + 1], byMm)).flat(),
    )
  const [a, b] = [lowestFirst(hull), lowestFirst(round)]
  const around: number[] = []
  for (let i = 0, j = 0; i < a.length || j < b.length;) {
    around.push(a[i % a.length] + b[j % b.length], a[(i + 1) % a.length] + b[(j + 1) % b.length])
    const turn =
      i >= a.length
        ? -1
        : j >= b.length
          ? 1
          : sideOf(a, i, 0) * sideOf(b, j, 1) - sideOf(a, i, 1) * sideOf(b, j, 0)
    if (turn >= 0) i += 2
    if (turn <= 0) j += 2
  }
  return around
}

/** A convex ring from its lowest corner on. */
function lowestFirst(ring: ArrayLike<number>): readonly number[] {
  let low = 0
  for (let i = 2; i < ring.length; i += 2)
    if (ring[i + 1] < ring[low + 1] || (ring[i + 1] === ring[low + 1] && ring[i] < ring[low])) low = i
  return Array.from(ring, (_, i) => ring[(i + low) % ring.length])
}

/** How far the side that begins at a corner goes along x or y. */
const sideOf = (ring: readonly number[], i: number, axis: number): number =>
  ring[(i + 2 + axis) % ring.length] - ring[i + axis]

/**
 * Whether two convex rings, counter-clockwise, lie at least so far from each other.
 * Source: separating axes; of the axes between corners only those along sides are looked at, so that some
 * count as nearer than they are.
 */
export const hullsApart = (a: ArrayLike<number>, b: ArrayLike<number>, mm: number): boolean =>
  liesBeyond(a, b, mm) || liesBeyond(b, a, mm)

/** Whether a ring lies beyond one of the sides of another one. */
function liesBeyond(ring: ArrayLike<number>, other: ArrayLike<number>, mm: number): boolean {
  for (let p = 0, q = ring.length - 2; p < ring.length; q = p, p += 2) {
    const [ax, ay] = [ring[q], ring[q + 1]]
    const [dx, dy] = [ring[p] - ax, ring[p + 1] - ay]
    const far = mm * Math.hypot(dx, dy)
    if (far === 0) continue
    let isBeyond = true
    for (let i = 0; isBeyond && i < other.length; i += 2)
      isBeyond = dy * (other[i] - ax) - dx * (other[i + 1] - ay) >= far
    if (isBeyond) return true
  }
  return false
}

/** What a convex hull shares with a round shape. Source: clipping by one edge after the other. */
export function hullInDisc(hull: readonly number[], x: number, y: number, radiusMm: number): Region {
  let ring = roundRing(x, y, radiusMm)
  for (let p = 0, q = hull.length - 2; p < hull.length && ring.length > 0; q = p, p += 2) {
    const ax = hull[q]
    const ay = hull[q + 1]
    const dx = hull[p] - ax
    const dy = hull[p + 1] - ay
    const middle = dx * (y - ay) - dy * (x - ax)
    // An edge that runs past the round shape cuts nothing off.
    if (middle >= 0 && middle * middle >= radiusMm * radiusMm * (dx * dx + dy * dy)) continue
    const kept: number[] = []
    let j = ring.length - 2
    let from = dx * (ring[j + 1] - ay) - dy * (ring[j] - ax)
    for (let i = 0; i < ring.length; j = i, i += 2) {
      const to = dx * (ring[i + 1] - ay) - dy * (ring[i] - ax)
      if (from < 0 !== to < 0) {
        const share = from / (from - to)
        kept.push(ring[j] + (ring[i] - ring[j]) * share, ring[j + 1] + (ring[i + 1] - ring[j + 1]) * share)
      }
      if (to >= 0) kept.push(ring[i], ring[i + 1])
      from = to
    }
    ring = kept
  }
  return regionFromRings(ring.length >= 6 ? [ring] : [])
}
