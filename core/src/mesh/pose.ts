import { meshBounds, type Mesh } from './mesh'

/** How the part lies on the bed: a turn as unit quaternion x, y, z, w, and a scale. The part is then set on the bed and centred. */
export type Pose = { readonly turn: readonly [number, number, number, number]; readonly scale: number }

export const UPRIGHT: Pose = { turn: [0, 0, 0, 1], scale: 1 }

/** The turn about an axis by an angle. */
export function turnAbout(axis: readonly [number, number, number], angleDeg: number): Pose['turn'] {
  const half = (angleDeg * Math.PI) / 360
  const length = Math.hypot(...axis)
  const s = Math.sin(half) / length
  return [axis[0] * s, axis[1] * s, axis[2] * s, Math.cos(half)]
}

/** One turn after another: `then` is applied to what `first` gave. */
export function composeTurns(then: Pose['turn'], first: Pose['turn']): Pose['turn'] {
  const [ax, ay, az, aw] = then
  const [bx, by, bz, bw] = first
  const q = [aw * bx + ax * bw + ay * bz - az * by, aw * by - ax * bz + ay * bw + az * bx, aw * bz + ax * by - ay * bx + az * bw, aw * bw - ax * bx - ay * by - az * bz]
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

/** Turn as a row-major 3 x 3 matrix. */
export function turnMatrix([x, y, z, w]: Pose['turn']): number[] {
  return [
    1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w),
    2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w),
    2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y),
  ] // prettier-ignore
}

/** The mesh as it lies on the bed: turned, scaled, its lowest point at z = 0, its box centred on x = y = 0. */
export function poseMesh(mesh: Mesh, pose: Pose): Mesh {
  const m = turnMatrix(pose.turn).map((value) => value * pose.scale)
  const from = mesh.positionsMm
  const to = new Float64Array(from.length)
  for (let i = 0; i < from.length; i += 3) {
    const x = from[i]
    const y = from[i + 1]
    const z = from[i + 2]
    to[i] = m[0] * x + m[1] * y + m[2] * z
    to[i + 1] = m[3] * x + m[4] * y + m[5] * z
    to[i + 2] = m[6] * x + m[7] * y + m[8] * z
  }
  const { min, max } = meshBounds({ positionsMm: to, corners: mesh.corners })
  const dx = (min[0] + max[0]) / 2
  const dy = (min[1] + max[1]) / 2
  for (let i = 0; i < to.length; i += 3) {
    to[i] -= dx
    to[i + 1] -= dy
    to[i + 2] -= min[2]
  }
  return { positionsMm: to, corners: mesh.corners }
}
