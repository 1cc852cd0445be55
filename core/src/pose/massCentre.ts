import { meshBounds, type Mesh } from '../mesh'

/**
 * Centre of mass of the solid inside a closed mesh, and its volume; of an open one, the middle of its box.
 * Source: sum over tetrahedra from the origin.
 */
export function massCentre(mesh: Mesh): {
  readonly centre: readonly [number, number, number]
  readonly volumeMm3: number
} {
  const { positionsMm: p, corners } = mesh
  const { min, max } = meshBounds(mesh)
  const [ox, oy, oz] = [0, 1, 2].map((axis) => (min[axis] + max[axis]) / 2)
  let [six, sx, sy, sz] = [0, 0, 0, 0]
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [3 * corners[t], 3 * corners[t + 1], 3 * corners[t + 2]]
    const [ax, ay, az] = [p[a] - ox, p[a + 1] - oy, p[a + 2] - oz]
    const [bx, by, bz] = [p[b] - ox, p[b + 1] - oy, p[b + 2] - oz]
    const [cx, cy, cz] = [p[c] - ox, p[c + 1] - oy, p[c + 2] - oz]
    const v = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx)
    six += v
    sx += v * (ax + bx + cx)
    sy += v * (ay + by + cy)
    sz += v * (az + bz + cz)
  }
  const inBox = [0, 1, 2].every(
    (axis) => Math.abs([sx, sy, sz][axis] / (4 * six)) <= (max[axis] - min[axis]) / 2,
  )
  if (!(Math.abs(six) > 1e-12) || !inBox) return { centre: [ox, oy, oz], volumeMm3: Math.abs(six) / 6 }
  return {
    centre: [ox + sx / (4 * six), oy + sy / (4 * six), oz + sz / (4 * six)],
    volumeMm3: Math.abs(six) / 6,
  }
}
