import type { PolygonEngine } from './engine'
import { boundsOf, EMPTY_REGION, ringAreaMm2, ringCount, ringOf, type Region } from './region'

/**
 * A convex shape around the origin, counter-clockwise: [x, y, x, y, ...]. What a region may grow by differs
 * with the direction.
 */
export type Reach = Float64Array

/**
 * The largest convex shape that reaches no farther than `reachMm` in any of its directions, which are evenly
 * spaced and start at +x. A side that faces direction k may then step out by reachMm[k]; where the limits
 * make a dent, by a little less.
 */
export function reachOf(reachMm: ArrayLike<number>): Reach {
  const far = 1e3
  let shape = [-far, -far, far, -far, far, far, -far, far]
  for (let k = 0; k < reachMm.length; k++) {
    const angle = (2 * Math.PI * k) / reachMm.length
    shape = cut(shape, Math.cos(angle), Math.sin(angle), Math.max(1e-6, reachMm[k]))
  }
  return Float64Array.from(shape)
}

/** What of a convex shape lies on this side of n . p = limit. */
function cut(shape: readonly number[], nx: number, ny: number, limit: number): number[] {
  const kept: number[] = []
  for (let i = 0; i < shape.length; i += 2) {
    const j = (i + 2) % shape.length
    const a = nx * shape[i] + ny * shape[i + 1] - limit
    const b = nx * shape[j] + ny * shape[j + 1] - limit
    if (a <= 0) kept.push(shape[i], shape[i + 1])
    if ((a < 0 && b > 0) || (a > 0 && b < 0)) {
      const t = a / (a - b)
      kept.push(shape[i] + t * (shape[j] - shape[i]), shape[i + 1] + t * (shape[j + 1] - shape[i + 1]))
    }
  }
  return kept
}

/**
 * The Minkowski sum of a region and a convex shape.
 *
 * Walks every ring and lays the shape's own sides in at each corner, forward at a left turn and backward at a
 * right turn. What the walk goes round more often forward than backward is the sum. A hole small enough to
 * vanish inside the shape is dropped first: there the count would come out even.
 * Source: convolution of polygonal tracings.
 */
export function growBy(region: Region, reach: Reach, engine: PolygonEngine): Region {
  const sides = reach.length / 2
  if (region.starts.length < 2) return EMPTY_REGION
  const angles = new Float64Array(sides)
  for (let k = 0; k < sides; k++)
    angles[k] = Math.atan2(
      reach[(2 * k + 3) % reach.length] - reach[2 * k + 1],
      reach[(2 * k + 2) % reach.length] - reach[2 * k],
    )
  const starts: number[] = [0]
  let out = new Float64Array(Math.max(64, region.xyMm.length * 2 + ringCount(region) * reach.length * 4))
  let size = 0
  const put = (x: number, y: number): void => {
    if (size + 2 > out.length) {
      const larger = new Float64Array(out.length * 2)
      larger.set(out)
      out = larger
    }
    out[size++] = x
    out[size++] = y
  }
  for (let r = 0; r < ringCount(region); r++) {
    const ring = ringOf(region, r)
    const points = ring.length / 2
    if (points < 3 || (ringAreaMm2(ring) < 0 && vanishesIn(ring, reach))) continue
    const heading = (i: number) =>
      Math.atan2(
        ring[(2 * i + 3) % ring.length] - ring[2 * i + 1],
        ring[(2 * i + 2) % ring.length] - ring[2 * i],
      )
    let before = heading(points - 1)
    // The shape's corner that lies farthest to the right of the way: between the sides that turn before and
    // after the heading.
    let k = cornerFor(angles, before)
    for (let i = 0; i < points; i++) {
      const now = heading(i)
      const x = ring[2 * i]
      const y = ring[2 * i + 1]
      put(x + reach[2 * k], y + reach[2 * k + 1])
      const target = cornerFor(angles, now)
      const left = turnOf(before, now) >= 0
      while (k !== target) {
        k = (k + (left ? 1 : sides - 1)) % sides
        put(x + reach[2 * k], y + reach[2 * k + 1])
      }
      before = now
    }
    starts.push(size / 2)
  }
  if (size === 0) return EMPTY_REGION
  return engine.clean({ xyMm: out.subarray(0, size), starts: Uint32Array.from(starts) }, 'positive')
}

/** The corner of the shape that lies outermost of a side with this heading. */
function cornerFor(angles: Float64Array, heading: number): number {
  const sides = angles.length
  // Side k runs from corner k to k+1; the corner wanted is the end of the last side whose heading is not past
  // this one.
  let best = 0
  let smallest = Infinity
  for (let k = 0; k < sides; k++) {
    let ahead = heading - angles[k]
    if (ahead < 0) ahead += 2 * Math.PI
    if (ahead < 0) ahead += 2 * Math.PI
    if (ahead >= 2 * Math.PI) ahead -= 2 * Math.PI
    if (ahead < smallest) {
      smallest = ahead
      best = k
    }
  }
  return (best + 1) % sides
}

function turnOf(from: number, to: number): number {
  let turn = to - from
  if (turn > Math.PI) turn -= 2 * Math.PI
  if (turn <= -Math.PI) turn += 2 * Math.PI
  return turn
}

/** Whether some copy of the shape holds the whole ring: the shape shrunk by it is not empty. */
function vanishesIn(ring: Float64Array, reach: Reach): boolean {
  const ringBox = boundsOf(ring)
  const shapeBox = boundsOf(reach)
  if (
    ringBox.maxX - ringBox.minX > shapeBox.maxX - shapeBox.minX ||
    ringBox.maxY - ringBox.minY > shapeBox.maxY - shapeBox.minY
  )
    return false
  let places = [-1e4, -1e4, 1e4, -1e4, 1e4, 1e4, -1e4, 1e4]
  for (let k = 0; k < reach.length && places.length > 0; k += 2) {
    const j = (k + 2) % reach.length
    const [dx, dy] = [reach[j] - reach[k], reach[j + 1] - reach[k + 1]]
    const length = Math.hypot(dx, dy)
    if (length === 0) continue
    const [nx, ny] = [dy / length, -dx / length]
    let farthest = -Infinity
    for (let i = 0; i < ring.length; i += 2) farthest = Math.max(farthest, nx * ring[i] + ny * ring[i + 1])
    places = cut(places, nx, ny, nx * reach[k] + ny * reach[k + 1] - farthest)
  }
  return places.length > 0
}
