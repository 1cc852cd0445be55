import { EMPTY_REGION, regionFromRings, ringCount, ringOf, type Region } from './region'

/** A tip is a needle where it is this many times as long as wide. */
const SLENDER = 2
/** And no blunter than this where it ends in one point: the tangent of its angle. */
const BLUNTEST = 0.6
/** Shorter ones come from the grid of the engine, and do no harm. */
const SHORTEST_MM = 0.02
/** Outlines that were thinned may cross themselves by this much. */
const FOLDED_MM = 0.01

/**
 * A region without its needles: tips and spikes of at most `widthMm`, and at least twice as long as wide,
 * end where they would be wider or shorter. Cutting outlines leaves them where two cuts nearly meet. Nothing
 * is added but notches thinner than outlines are thinned by; a region without any is given back as it is.
 */
export function withoutNeedles(region: Region, widthMm: number): Region {
  let rings: Float64Array[] | null = null
  for (let r = 0; r < ringCount(region); r++) {
    const ring = ringOf(region, r)
    let kept = ring
    // Each cut takes points away, but for two: what is left may end in another needle.
    for (let rounds = ring.length; rounds > 0; rounds--) {
      const cut = firstCut(kept, widthMm)
      if (!cut) break
      kept = cut
    }
    if (kept === ring) continue
    rings ??= Array.from({ length: ringCount(region) }, (_, n) => ringOf(region, n))
    rings[r] = kept
  }
  if (!rings) return region
  const left = rings.filter((ring) => ring.length >= 6)
  return left.length === 0 ? EMPTY_REGION : regionFromRings(left)
}

/** A ring with its first needle cut off; null when it has none. */
function firstCut(ring: Float64Array, widthMm: number): Float64Array | null {
  const points = ring.length / 2
  if (points < 4) return null
  for (let p = 0; p < points; p++) {
    const next = p + 1 === points ? 0 : p + 1
    const dx = ring[2 * next] - ring[2 * p]
    const dy = ring[2 * next + 1] - ring[2 * p + 1]
    const cut =
      (isSharp(ring, p) && cutFrom(ring, p, p, widthMm)) ||
      (dx * dx + dy * dy < widthMm * widthMm && cutFrom(ring, p, next, widthMm))
    if (cut) return cut
  }
  return null
}

/** Whether the ring turns round at a point. */
function isSharp(ring: Float64Array, p: number): boolean {
  const [a, c] = [before(ring, p), after(ring, p)]
  const [x, y] = [ring[2 * p], ring[2 * p + 1]]
  const [ux, uy] = [ring[2 * a] - x, ring[2 * a + 1] - y]
  const [vx, vy] = [ring[2 * c] - x, ring[2 * c + 1] - y]
  const along = ux * vx + uy * vy
  const across = vx * uy - vy * ux
  return along > 0 && across >= -BLUNTEST * along && across <= BLUNTEST * along
}

const before = (ring: Float64Array, p: number): number => (p === 0 ? ring.length / 2 : p) - 1
const after = (ring: Float64Array, p: number): number => (2 * p + 2 === ring.length ? 0 : p + 1)

/**
 * Goes down both sides of a tip that begins at point `a` on the one and at `b` on the other, side by side, as
 * long as they stay near each other. Null when nothing of it is a needle.
 */
function cutFrom(ring: Float64Array, a: number, b: number, widthMm: number): Float64Array | null {
  let [ax, ay, bx, by] = [ring[2 * a], ring[2 * a + 1], ring[2 * b], ring[2 * b + 1]]
  let wideMm = Math.hypot(ax - bx, ay - by)
  let lengthMm = 0
  let [back, on] = [before(ring, a), after(ring, b)]
  let cut: { readonly ends: readonly number[]; readonly back: number; readonly on: number } | null = null
  while (back !== on && after(ring, on) !== back && wideMm < widthMm) {
    const [ux, uy] = [ring[2 * back] - ax, ring[2 * back + 1] - ay]
    const [vx, vy] = [ring[2 * on] - bx, ring[2 * on + 1] - by]
    // Both sides lead the same way.
    if (ux * vx + uy * vy <= 0) break
    const [lengthA, lengthB] = [Math.sqrt(ux * ux + uy * uy), Math.sqrt(vx * vx + vy * vy)]
    let [toA, toB] = [1, 1]
    if (lengthA <= lengthB) toB = share(ux + ax - bx, uy + ay - by, vx, vy)
    else toA = share(vx + bx - ax, vy + by - ay, ux, uy)
    const [wx, wy] = [ax + toA * ux - bx - toB * vx, ay + toA * uy - by - toB * vy]
    const wider = Math.hypot(wx, wy)
    // The inside lies between them: what lies there otherwise is a notch.
    if (vx * wy - vy * wx < -FOLDED_MM * lengthB) break
    const part = wider <= widthMm ? 1 : (widthMm - wideMm) / (wider - wideMm)
    ax += part * toA * ux
    ay += part * toA * uy
    bx += part * toB * vx
    by += part * toB * vy
    wideMm = wider <= widthMm ? wider : widthMm
    lengthMm += part * Math.min(lengthA, lengthB)
    if (part * toA === 1) back = before(ring, back)
    if (part * toB === 1) on = after(ring, on)
    if (lengthMm >= SLENDER * wideMm && lengthMm > SHORTEST_MM) cut = { ends: [ax, ay, bx, by], back, on }
  }
  if (!cut) return null
  const kept = [...cut.ends]
  for (let p = cut.on; p !== cut.back; p = after(ring, p)) kept.push(ring[2 * p], ring[2 * p + 1])
  kept.push(ring[2 * cut.back], ring[2 * cut.back + 1])
  return Float64Array.from(kept)
}

/** Where along a side the place nearest to another one is: 0 at its start, 1 at its end. */
const share = (x: number, y: number, vx: number, vy: number): number =>
  Math.max(0, Math.min(1, (x * vx + y * vy) / (vx * vx + vy * vy)))
