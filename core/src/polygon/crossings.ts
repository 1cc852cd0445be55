import type { Region } from './region'

/** A direction of the plane. */
export type Heading = { readonly cos: number; readonly sin: number }

export const headingOf = (directionDeg: number): Heading => ({
  cos: Math.cos((directionDeg * Math.PI) / 180),
  sin: Math.sin((directionDeg * Math.PI) / 180),
})

/**
 * Where one straight line meets the sides of a region, ascending: between the first and the second it lies
 * inside, and so on in pairs.
 * @param acrossMm how far the line lies to the left of the origin, looking along the heading
 * @returns places along the heading, in mm from the foot of the origin
 */
export function crossingsOf({ xyMm, starts }: Region, { cos, sin }: Heading, acrossMm: number): number[] {
  const found: number[] = []
  for (let r = 0; r + 1 < starts.length; r++) {
    let q = 2 * starts[r + 1] - 2
    let before = xyMm[q + 1] * cos - xyMm[q] * sin - acrossMm
    for (let p = 2 * starts[r]; p < 2 * starts[r + 1]; p += 2) {
      const now = xyMm[p + 1] * cos - xyMm[p] * sin - acrossMm
      // Half-open, so that a line through a corner meets exactly one of its two sides.
      if (now > 0 !== before > 0) {
        const share = now / (now - before)
        found.push(
          (xyMm[p] + (xyMm[q] - xyMm[p]) * share) * cos +
            (xyMm[p + 1] + (xyMm[q + 1] - xyMm[p + 1]) * share) * sin,
        )
      }
      q = p
      before = now
    }
  }
  return found.sort((a, b) => a - b)
}
