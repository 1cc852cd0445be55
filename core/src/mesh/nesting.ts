import type { Mesh } from './mesh'

/** How a shell stands to the others. */
export type ShellStanding = {
  readonly volumeMm3: number
  /** Longest side of its box. */
  readonly sizeMm: number
  /** Middle of its box. */
  readonly middleMm: readonly [number, number, number]
  /**
   * `wrong`: inside out with nothing around it. `hollow`: inside out in the material of another. `nested`:
   * solid in the material of another.
   */
  readonly faces: 'right' | 'wrong' | 'hollow' | 'nested'
}

/**
 * Comparisons of a point with a triangle, and of two boxes, that are made at most; a mesh of tens of
 * thousands of specks is judged only in part.
 */
const MOST_TESTS = 20e6
const MOST_BOXES = 40e6

/**
 * Judges every shell, the largest first, so that what lies around a shell is settled before it. Open shells
 * are never taken for inside out.
 */
export function shellNesting(
  mesh: Mesh,
  shellOf: Int32Array,
  shells: number,
  open: Uint8Array,
): ShellStanding[] {
  const { positionsMm: p, corners } = mesh
  const six = new Float64Array(shells)
  const box = new Float64Array(6 * shells)
  const starts = new Uint32Array(shells + 1)
  for (let s = 0; s < shells; s++)
    box.set([Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity], 6 * s)
  for (let t = 0; t < shellOf.length; t++) {
    const s = shellOf[t]
    starts[s + 1]++
    const [a, b, c] = [3 * corners[3 * t], 3 * corners[3 * t + 1], 3 * corners[3 * t + 2]]
    six[s] +=
      p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) +
      p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) +
      p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c])
    for (const at of [a, b, c])
      for (let axis = 0; axis < 3; axis++) {
        const value = p[at + axis]
        if (value < box[6 * s + axis]) box[6 * s + axis] = value
        if (value > box[6 * s + 3 + axis]) box[6 * s + 3 + axis] = value
      }
  }
  for (let s = 0; s < shells; s++) starts[s + 1] += starts[s]
  const triangles = new Uint32Array(shellOf.length)
  const fill = starts.slice(0, shells)
  for (let t = 0; t < shellOf.length; t++) triangles[fill[shellOf[t]]++] = t

  const order = Array.from({ length: shells }, (_, s) => s).sort(
    (a, b) => Math.abs(six[b]) - Math.abs(six[a]),
  )
  const standing: ShellStanding[] = new Array<ShellStanding>(shells)
  let tests = 0
  let boxes = 0
  /** Closed shells judged so far, the largest first. */
  const closed: number[] = []
  for (const s of order) {
    let winding = 0
    const first = 3 * corners[3 * triangles[starts[s]]]
    for (let k = 0; k < closed.length && tests < MOST_TESTS && boxes < MOST_BOXES; k++) {
      const around = closed[k]
      boxes++
      if (!within(box, s, around)) continue
      tests += starts[around + 1] - starts[around]
      if (
        inside(
          mesh,
          triangles.subarray(starts[around], starts[around + 1]),
          p[first],
          p[first + 1],
          p[first + 2],
        )
      )
        winding += standing[around].faces === 'hollow' ? -1 : 1
    }
    const inward = six[s] < 0 && !open[s]
    const faces = winding > 0 ? (inward ? 'hollow' : 'nested') : inward ? 'wrong' : 'right'
    const sizeMm = Math.max(
      box[6 * s + 3] - box[6 * s],
      box[6 * s + 4] - box[6 * s + 1],
      box[6 * s + 5] - box[6 * s + 2],
    )
    const middle = (axis: number) => (box[6 * s + axis] + box[6 * s + 3 + axis]) / 2
    standing[s] = { volumeMm3: six[s] / 6, sizeMm, middleMm: [middle(0), middle(1), middle(2)], faces }
    if (!open[s]) closed.push(s)
  }
  return standing
}

function within(box: Float64Array, inner: number, outer: number): boolean {
  for (let axis = 0; axis < 3; axis++)
    if (
      box[6 * inner + axis] < box[6 * outer + axis] ||
      box[6 * inner + 3 + axis] > box[6 * outer + 3 + axis]
    )
      return false
  return true
}

/** Whether a point lies inside a closed shell: a ray upwards meets it an odd number of times. */
function inside(
  { positionsMm: p, corners }: Mesh,
  triangles: Uint32Array,
  x: number,
  y: number,
  z: number,
): boolean {
  let odd = false
  for (const t of triangles) {
    const [a, b, c] = [3 * corners[3 * t], 3 * corners[3 * t + 1], 3 * corners[3 * t + 2]]
    // A side counts on one end only, so a ray through a vertex is counted once.
    const ab = crosses(p, a, b, x, y)
    const bc = crosses(p, b, c, x, y)
    const ca = crosses(p, c, a, x, y)
    if (((ab + bc + ca) & 1) === 0) continue
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]]
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]]
    const nz = ux * vy - uy * vx
    if (nz === 0) continue
    const height = p[a + 2] - ((uy * vz - uz * vy) * (x - p[a]) + (uz * vx - ux * vz) * (y - p[a + 1])) / nz
    if (height > z) odd = !odd
  }
  return odd
}

/** One when the side from a to b, seen from above, passes to the right of the point. */
function crosses(p: Float64Array, a: number, b: number, x: number, y: number): number {
  // The lower end always first: both triangles of a side must come to the very same number.
  const [low, high] = p[a + 1] < p[b + 1] || (p[a + 1] === p[b + 1] && p[a] < p[b]) ? [a, b] : [b, a]
  if (p[low + 1] > y || p[high + 1] <= y) return 0
  return x < p[low] + ((p[high] - p[low]) * (y - p[low + 1])) / (p[high + 1] - p[low + 1]) ? 1 : 0
}
