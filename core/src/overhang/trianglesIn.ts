import { bodiesOf, type Mesh } from '../mesh'
import type { Zone, ZoneShape } from './zones'

/** Per triangle: 1 where one of the zones reaches it; a flat face of few triangles is marked as a whole. */
export function trianglesIn(mesh: Mesh, zones: readonly Zone[]): Uint8Array {
  const { positionsMm: p, corners } = mesh
  const marked = new Uint8Array(corners.length / 3)
  const at = (corner: number): Point => [p[3 * corner], p[3 * corner + 1], p[3 * corner + 2]]
  for (let t = 0; t < marked.length; t++) {
    const triangle = [at(corners[3 * t]), at(corners[3 * t + 1]), at(corners[3 * t + 2])] as const
    if (zones.some(({ shape }) => reaches(shape, triangle))) marked[t] = 1
  }
  for (const { shape } of zones)
    if (shape.kind === 'body') {
      const body = bodiesOf(mesh)[shape.body]
      if (body) marked.fill(1, body.from, body.to)
    }
  return marked
}

type Point = readonly [number, number, number]
type Triangle = readonly [Point, Point, Point]

function reaches(shape: ZoneShape, triangle: Triangle): boolean {
  switch (shape.kind) {
    case 'box': {
      const middle = shape.minMm.map((low, axis) => (low + shape.maxMm[axis]) / 2) as unknown as Point
      return (
        inBox(nearestOn(triangle, middle), shape.minMm, shape.maxMm) ||
        triangle.some((corner) => inBox(corner, shape.minMm, shape.maxMm))
      )
    }
    case 'cylinder': {
      const [fx, fy, fz] = shape.footMm
      const within = ([x, y, z]: Point) =>
        Math.hypot(x - fx, y - fy) <= shape.radiusMm && z >= fz && z <= fz + shape.heightMm
      return within(nearestOn(triangle, [fx, fy, fz + shape.heightMm / 2])) || triangle.some(within)
    }
    case 'brush':
      for (let i = 0; i + 2 < shape.atMm.length; i += 3) {
        const dab: Point = [shape.atMm[i], shape.atMm[i + 1], shape.atMm[i + 2]]
        const near = nearestOn(triangle, dab)
        if (Math.hypot(near[0] - dab[0], near[1] - dab[1], near[2] - dab[2]) <= shape.radiusMm) return true
      }
      return false
    case 'body':
      return false
  }
}

const inBox = (point: Point, min: Point, max: Point) =>
  point.every((value, axis) => value >= min[axis] && value <= max[axis])

/** The place of a triangle nearest to a point. Source: Ericson's regions of a triangle. */
function nearestOn([a, b, c]: Triangle, p: Point): Point {
  const minus = (u: Point, v: Point): Point => [u[0] - v[0], u[1] - v[1], u[2] - v[2]]
  const dot = (u: Point, v: Point) => u[0] * v[0] + u[1] * v[1] + u[2] * v[2]
  const along = (from: Point, way: Point, t: number): Point => [
    from[0] + t * way[0],
    from[1] + t * way[1],
    from[2] + t * way[2],
  ]
  const [ab, ac, ap, bp, cp] = [minus(b, a), minus(c, a), minus(p, a), minus(p, b), minus(p, c)]
  const [d1, d2, d3, d4, d5, d6] = [
    dot(ab, ap),
    dot(ac, ap),
    dot(ab, bp),
    dot(ac, bp),
    dot(ab, cp),
    dot(ac, cp),
  ]
  if (d1 <= 0 && d2 <= 0) return a
  if (d3 >= 0 && d4 <= d3) return b
  const vc = d1 * d4 - d3 * d2
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return along(a, ab, d1 / (d1 - d3))
  if (d6 >= 0 && d5 <= d6) return c
  const vb = d5 * d2 - d1 * d6
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return along(a, ac, d2 / (d2 - d6))
  const va = d3 * d6 - d5 * d4
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) return along(b, minus(c, b), (d4 - d3) / (d4 - d3 + d5 - d6))
  const whole = va + vb + vc
  return along(along(a, ab, vb / whole), ac, vc / whole)
}
