import type { Mesh } from '../mesh'

/** Corners nearer than this are one in a file with six decimals, mm. */
const SAME_PLACE_MM = 2e-6
/** Below this a triangle has no area that a file with six decimals keeps, mm2. */
const NO_AREA_MM2 = 1e-8
/** Flips that a flat triangle may hand on to the next. */
const MOST_ROUNDS = 8

/**
 * The same closed surface without triangles that have no area. One whose middle corner lies on its longest
 * side takes over a corner of the triangle beyond that side: the two are divided the other way. Where two
 * corners lie at one place, they become one. Sides stay met by two each.
 */
export function withoutFlat({ positionsMm: p, corners: given }: Mesh): Mesh {
  let corners: Uint32Array = given.slice()
  const points = p.length / 3
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const flat: number[] = []
    for (let t = 0; t < corners.length; t += 3)
      if (areaMm2(p, corners[t], corners[t + 1], corners[t + 2]) < NO_AREA_MM2) flat.push(t)
    if (flat.length === 0) break
    const short = flat.find(
      (t) => shortSide(p, corners, t) !== null && canFall(corners, ...shortSide(p, corners, t)!),
    )
    if (short !== undefined) {
      corners = fallen(corners, ...shortSide(p, corners, short)!)
      round = -1
      continue
    }
    const beyond = new Map<number, number>()
    for (let c = 0; c < corners.length; c++)
      beyond.set(corners[c] * points + corners[c % 3 === 2 ? c - 2 : c + 1], c - (c % 3))
    const touched = new Set<number>()
    for (const t of flat) {
      const k = longestSide(p, corners, t)
      const [a, b, middle] = [corners[t + k], corners[t + ((k + 1) % 3)], corners[t + ((k + 2) % 3)]]
      const other = beyond.get(b * points + a)
      if (other === undefined || touched.has(t) || touched.has(other)) continue
      const far = [0, 1, 2].map((i) => corners[other + i]).find((v) => v !== a && v !== b)
      // An edge between the two that is there already must not be there twice.
      if (
        far === undefined ||
        far === middle ||
        beyond.has(middle * points + far) ||
        beyond.has(far * points + middle)
      )
        continue
      touched.add(t).add(other)
      corners.set([a, far, middle], t)
      corners.set([far, b, middle], other)
    }
    if (touched.size === 0) break
  }
  return { positionsMm: p, corners }
}

function areaMm2(p: Float64Array, a: number, b: number, c: number): number {
  const ux = p[3 * b] - p[3 * a]
  const uy = p[3 * b + 1] - p[3 * a + 1]
  const uz = p[3 * b + 2] - p[3 * a + 2]
  const wx = p[3 * c] - p[3 * a]
  const wy = p[3 * c + 1] - p[3 * a + 1]
  const wz = p[3 * c + 2] - p[3 * a + 2]
  const nx = uy * wz - uz * wy
  const ny = uz * wx - ux * wz
  const nz = ux * wy - uy * wx
  return Math.sqrt(nx * nx + ny * ny + nz * nz) / 2
}

/** Which of a triangle's sides is its longest, by its first corner. */
function longestSide(p: Float64Array, corners: Uint32Array, t: number): number {
  let [best, most] = [0, -1]
  for (let k = 0; k < 3; k++) {
    const [a, b] = [corners[t + k], corners[t + ((k + 1) % 3)]]
    const d = Math.hypot(p[3 * a] - p[3 * b], p[3 * a + 1] - p[3 * b + 1], p[3 * a + 2] - p[3 * b + 2])
    if (d > most) [best, most] = [k, d]
  }
  return best
}

/** The two corners of a triangle that lie at one place, if any do. */
function shortSide(p: Float64Array, corners: Uint32Array, t: number): [number, number] | null {
  for (let k = 0; k < 3; k++) {
    const [a, b] = [corners[t + k], corners[t + ((k + 1) % 3)]]
    if (
      Math.hypot(p[3 * a] - p[3 * b], p[3 * a + 1] - p[3 * b + 1], p[3 * a + 2] - p[3 * b + 2]) <
      SAME_PLACE_MM
    )
      return [a, b]
  }
  return null
}

/**
 * Whether a corner may fall into another: only the two triangles at their side may share a neighbour of both.
 */
function canFall(corners: Uint32Array, a: number, b: number): boolean {
  const around = (v: number) => {
    const found = new Set<number>()
    for (let t = 0; t < corners.length; t += 3)
      if (corners[t] === v || corners[t + 1] === v || corners[t + 2] === v)
        for (let k = 0; k < 3; k++) found.add(corners[t + k])
    return found
  }
  const ofB = around(b)
  return [...around(a)].filter((v) => v !== a && v !== b && ofB.has(v)).length === 2
}

/** The triangles once corner b has fallen into corner a. */
function fallen(corners: Uint32Array, a: number, b: number): Uint32Array {
  const left = new Uint32Array(corners.length)
  let size = 0
  for (let t = 0; t < corners.length; t += 3) {
    const [x, y, z] = [0, 1, 2].map((k) => (corners[t + k] === b ? a : corners[t + k]))
    if (x === y || y === z || z === x) continue
    left[size++] = x
    left[size++] = y
    left[size++] = z
  }
  return left.slice(0, size)
}
