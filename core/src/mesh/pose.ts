import { meshBounds, type Mesh } from './mesh'

/**
 * How the part lies on the bed: a turn as unit quaternion x, y, z, w, and a scale. The part is then set on
 * the bed and centred.
 */
export type Pose = { readonly turn: readonly [number, number, number, number]; readonly scale: number }

export const UPRIGHT: Pose = { turn: [0, 0, 0, 1], scale: 1 }

/**
 * The turn about an axis by an angle.
 * Source: unit quaternion (axis sin(a / 2), cos(a / 2)).
 */
export function turnAbout(axis: readonly [number, number, number], angleDeg: number): Pose['turn'] {
  const half = (angleDeg * Math.PI) / 360
  const length = Math.hypot(...axis)
  const s = Math.sin(half) / length
  return [axis[0] * s, axis[1] * s, axis[2] * s, Math.cos(half)]
}

/**
 * One turn after another: `then` is applied to what `first` gave.
 * Source: product of quaternions.
 */
export function composeTurns(then: Pose['turn'], first: Pose['turn']): Pose['turn'] {
  const [ax, ay, az, aw] = then
  const [bx, by, bz, bw] = first
  const q = [
    aw * bx + ax * bw + ay * bz - az * by,
    aw * by - ax * bz + ay * bw + az * bx,
    aw * bz + ax * by - ay * bx + az * bw,
    aw * bw - ax * bx - ay * by - az * bz,
  ]
  const length = Math.hypot(...q)
  return [q[0] / length, q[1] / length, q[2] / length, q[3] / length]
}

/** The shortest turn that brings a face with this outward normal onto the bed. */
export function turnFaceDown(normal: readonly [number, number, number]): Pose['turn'] {
  const length = Math.hypot(...normal)
  const [x, y, z] = [normal[0] / length, normal[1] / length, normal[2] / length]
  if (z > 1 - 1e-9) return turnAbout([1, 0, 0], 180)
  // Half-way quaternion between the normal and straight down.
  const q = [-y, x, 0, 1 - z]
  const n = Math.hypot(...q)
  return [q[0] / n, q[1] / n, q[2] / n, q[3] / n]
}

/**
 * Turn as a row-major 3 x 3 matrix.
 * Source: rotation matrix of a unit quaternion.
 */
export function turnMatrix([x, y, z, w]: Pose['turn']): number[] {
  return [
    1 - 2 * (y * y + z * z),
    2 * (x * y - z * w),
    2 * (x * z + y * w),
    2 * (x * y + z * w),
    1 - 2 * (x * x + z * z),
    2 * (y * z - x * w),
    2 * (x * z - y * w),
    2 * (y * z + x * w),
    1 - 2 * (x * x + y * y),
  ]
}

/**
 * Where a pose puts every point: row-major 3 x 4, turn, scale and shift in one; a ball's radius grows by
 * `scale`.
 */
export type Placing = { readonly matrix: readonly number[]; readonly scale: number }

/**
 * Turn and scale of a pose, and the shift that sets the mesh's lowest point at z = 0 and the middle of its
 * box on x = y = 0.
 */
export function placingOf(mesh: Mesh, pose: Pose): Placing {
  const m = turnMatrix(pose.turn).map((value) => value * pose.scale)
  const turned = {
    matrix: [m[0], m[1], m[2], 0, m[3], m[4], m[5], 0, m[6], m[7], m[8], 0],
    scale: pose.scale,
  }
  const { min, max } = meshBounds(applyPlacing(mesh, turned))
  return {
    matrix: [
      m[0],
      m[1],
      m[2],
      -(min[0] + max[0]) / 2,
      m[3],
      m[4],
      m[5],
      -(min[1] + max[1]) / 2,
      m[6],
      m[7],
      m[8],
      -min[2],
    ],
    scale: pose.scale,
  }
}

/** The mesh with every vertex moved. */
export function applyPlacing(mesh: Mesh, { matrix: m }: Placing): Mesh {
  const from = mesh.positionsMm
  const to = new Float64Array(from.length)
  for (let i = 0; i < from.length; i += 3) {
    const x = from[i]
    const y = from[i + 1]
    const z = from[i + 2]
    to[i] = m[0] * x + m[1] * y + m[2] * z + m[3]
    to[i + 1] = m[4] * x + m[5] * y + m[6] * z + m[7]
    to[i + 2] = m[8] * x + m[9] * y + m[10] * z + m[11]
  }
  return { ...mesh, positionsMm: to }
}

/**
 * The mesh as it lies on the bed: turned, scaled, its lowest point at z = 0, its box centred on x = y = 0.
 */
export function poseMesh(mesh: Mesh, pose: Pose): Mesh {
  return applyPlacing(mesh, placingOf(mesh, pose))
}

/** A place on the bed, back in the part's own coordinates. */
export function unplaced(
  { matrix: m, scale }: Placing,
  [x, y, z]: readonly [number, number, number],
): [number, number, number] {
  const [dx, dy, dz] = [x - m[3], y - m[7], z - m[11]]
  const square = scale * scale
  return [
    (m[0] * dx + m[4] * dy + m[8] * dz) / square,
    (m[1] * dx + m[5] * dy + m[9] * dz) / square,
    (m[2] * dx + m[6] * dy + m[10] * dz) / square,
  ]
}
