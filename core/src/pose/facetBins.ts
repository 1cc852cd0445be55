import type { Mesh } from '../mesh'
import { radians } from '../units'

/**
 * A mesh's faces gathered by the way they look: per bin its area times normal (3 numbers) and the sum of area
 * * normal * centre (9). From these a pose's hanging area and the air under it follow without looking at the
 * triangles again.
 */
export type FacetBins = {
  readonly sums: Float64Array
  readonly normals: Float64Array
  readonly count: number
}

const SIDE = 40

/** Sorts faces by normal on a square grid folded round the sphere. Source: octahedral map. */
export function facetBins({ positionsMm: p, corners }: Mesh): FacetBins {
  const sums = new Float64Array(SIDE * SIDE * 12)
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [3 * corners[t], 3 * corners[t + 1], 3 * corners[t + 2]]
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]]
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]]
    // Half the cross product is area times normal.
    const n = [(uy * vz - uz * vy) / 2, (uz * vx - ux * vz) / 2, (ux * vy - uy * vx) / 2]
    const flat = Math.abs(n[0]) + Math.abs(n[1]) + Math.abs(n[2])
    if (!(flat > 0)) continue
    let [s, r] = [n[0] / flat, n[1] / flat]
    if (n[2] < 0) [s, r] = [(1 - Math.abs(r)) * (s >= 0 ? 1 : -1), (1 - Math.abs(s)) * (r >= 0 ? 1 : -1)]
    const bin =
      Math.min(SIDE - 1, Math.floor(((s + 1) / 2) * SIDE)) * SIDE +
      Math.min(SIDE - 1, Math.floor(((r + 1) / 2) * SIDE))
    for (let i = 0; i < 3; i++) {
      sums[12 * bin + i] += n[i]
      for (let j = 0; j < 3; j++)
        sums[12 * bin + 3 + 3 * i + j] += (n[i] * (p[a + j] + p[b + j] + p[c + j])) / 3
    }
  }
  const filled: number[] = []
  for (let bin = 0; bin < SIDE * SIDE; bin++)
    if (Math.hypot(sums[12 * bin], sums[12 * bin + 1], sums[12 * bin + 2]) > 0) filled.push(bin)
  const packed = new Float64Array(filled.length * 12)
  const normals = new Float64Array(filled.length * 3)
  filled.forEach((bin, k) => {
    packed.set(sums.subarray(12 * bin, 12 * bin + 12), 12 * k)
    const length = Math.hypot(sums[12 * bin], sums[12 * bin + 1], sums[12 * bin + 2])
    for (let i = 0; i < 3; i++) normals[3 * k + i] = sums[12 * bin + i] / length
  })
  return { sums: packed, normals, count: filled.length }
}

/**
 * Air between hanging faces and the bed when this direction points down, nothing in between seen: never less
 * than what stands would fill.
 * @param down unit vector in the part's own coordinates
 * @param lowestMm largest reach of the part in that direction
 */
export function airBelow(
  { sums, normals, count }: FacetBins,
  [x, y, z]: readonly [number, number, number],
  lowestMm: number,
  freeAngleDeg: number,
): number {
  const limit = Math.sin(radians(freeAngleDeg))
  let air = 0
  for (let k = 0; k < count; k++) {
    if (normals[3 * k] * x + normals[3 * k + 1] * y + normals[3 * k + 2] * z <= limit) continue
    const at = 12 * k
    const area = sums[at] * x + sums[at + 1] * y + sums[at + 2] * z
    const moment =
      x * (sums[at + 3] * x + sums[at + 4] * y + sums[at + 5] * z) +
      y * (sums[at + 6] * x + sums[at + 7] * y + sums[at + 8] * z) +
      z * (sums[at + 9] * x + sums[at + 10] * y + sums[at + 11] * z)
    air += area * lowestMm - moment
  }
  return air
}
