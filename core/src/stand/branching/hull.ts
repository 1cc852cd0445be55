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
      const [x, y] = [points[2 * i], points[2 * i + 1]]
      for (;;) {
        const n = chain.length
        if (n < 4) break
        const [ax, ay, bx, by] = chain.slice(n - 4)
        if ((bx - ax) * (y - ay) - (by - ay) * (x - ax) > 0) break
        chain.length = n - 2
      }
      chain.push(x, y)
    }
    return chain.slice(0, -2)
  }
  return [...half(order), ...half(order.reverse())]
}

/** A hull that reaches as far beyond another one, nearly. */
export function hullAround(hull: readonly number[], byMm: number): number[] {
  const points: number[] = []
  for (let i = 0; i < hull.length; i += 2) points.push(...roundRing(hull[i], hull[i + 1], byMm))
  return hullOf(points)
}

/** What a convex hull shares with a round shape. Source: clipping by one edge after the other. */
export function hullInDisc(hull: readonly number[], x: number, y: number, radiusMm: number): Region {
  let ring = roundRing(x, y, radiusMm)
  for (let p = 0, q = hull.length - 2; p < hull.length && ring.length > 0; q = p, p += 2) {
    const [ax, ay, bx, by] = [hull[q], hull[q + 1], hull[p], hull[p + 1]]
    const side = (i: number) => (bx - ax) * (ring[i + 1] - ay) - (by - ay) * (ring[i] - ax)
    const kept: number[] = []
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [from, to] = [side(j), side(i)]
      if (from < 0 !== to < 0) {
        const share = from / (from - to)
        kept.push(ring[j] + (ring[i] - ring[j]) * share, ring[j + 1] + (ring[i + 1] - ring[j + 1]) * share)
      }
      if (to >= 0) kept.push(ring[i], ring[i + 1])
    }
    ring = kept
  }
  return regionFromRings(ring.length >= 6 ? [ring] : [])
}
