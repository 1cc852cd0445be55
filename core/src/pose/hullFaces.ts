import type { Mesh, SolidEngine } from '../mesh'
import { massCentre } from './massCentre'
import { standingOn } from './standing'

/** A flat side of a part's hull: something it can be stood on. */
export type HullFace = {
  /** Outwards, in the part's own coordinates. */
  readonly normal: readonly [number, number, number]
  readonly areaMm2: number
  /** Corners in order, three numbers each. */
  readonly outlineMm: readonly number[]
  readonly tipDeg: number
  readonly verdict: 'stands' | 'wobbly' | 'falls'
}

/** Sides of the hull within this of one plane are one face. */
const SAME_PLANE_COS = Math.cos((0.6 * Math.PI) / 180)
const MOST_FACES = 60

/** The flat sides of a part's hull, the largest first; slivers that nothing stands on are left out. */
export function hullFaces(mesh: Mesh, solids: SolidEngine): HullFace[] {
  const points = outerPoints(mesh)
  if (points.length < 4) return []
  const hull = solids.Manifold.hull(points)
  const { vertProperties: v, triVerts, numProp } = hull.getMesh()
  hull.delete()
  const at = (vertex: number): [number, number, number] => [
    v[vertex * numProp],
    v[vertex * numProp + 1],
    v[vertex * numProp + 2],
  ]
  const groups: {
    normal: [number, number, number]
    offset: number
    areaMm2: number
    corners: Set<number>
  }[] = []
  const scale = Math.max(...points.map((point) => Math.max(...point.map(Math.abs))), 1)
  for (let t = 0; t < triVerts.length; t += 3) {
    const [a, b, c] = [at(triVerts[t]), at(triVerts[t + 1]), at(triVerts[t + 2])]
    const n = cross(minus(b, a), minus(c, a))
    const length = Math.hypot(...n)
    if (length < 1e-12 * scale * scale) continue
    const unit: [number, number, number] = [n[0] / length, n[1] / length, n[2] / length]
    const offset = dot(unit, a)
    const home = groups.find(
      (group) =>
        dot(group.normal, unit) > SAME_PLANE_COS &&
        Math.abs(dot(group.normal, a) - group.offset) < 2e-3 * scale,
    )
    if (home) {
      home.areaMm2 += length / 2
      for (let i = 0; i < 3; i++) home.corners.add(triVerts[t + i])
    } else
      groups.push({
        normal: unit,
        offset,
        areaMm2: length / 2,
        corners: new Set([triVerts[t], triVerts[t + 1], triVerts[t + 2]]),
      })
  }
  const whole = groups.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)
  const { centre } = massCentre(mesh)
  return groups
    .filter(({ areaMm2 }) => areaMm2 > 0.002 * whole)
    .sort((a, b) => b.areaMm2 - a.areaMm2)
    .slice(0, MOST_FACES)
    .map(({ normal, areaMm2, corners, offset }) => {
      const [u, w] = axesOf(normal)
      const flat = [...corners].map((vertex) => ({
        place: at(vertex),
        x: dot(u, at(vertex)),
        y: dot(w, at(vertex)),
      }))
      const [mx, my] = [
        flat.reduce((sum, { x }) => sum + x, 0) / flat.length,
        flat.reduce((sum, { y }) => sum + y, 0) / flat.length,
      ]
      flat.sort((a, b) => Math.atan2(a.y - my, a.x - mx) - Math.atan2(b.y - my, b.x - mx))
      const { tipDeg, verdict } = standingOn(
        flat.map(({ x, y }) => [x, y] as const),
        [dot(u, centre), dot(w, centre)],
        offset - dot(normal, centre),
      )
      return { normal, areaMm2, outlineMm: flat.flatMap(({ place }) => place), tipDeg, verdict }
    })
}

type Vector = readonly [number, number, number]
const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
]
const dot = (a: Vector, b: Vector) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

/** Two axes across a normal. */
function axesOf(normal: Vector): [Vector, Vector] {
  const helper: Vector = Math.abs(normal[0]) < 0.8 ? [1, 0, 0] : [0, 1, 0]
  const u = cross(helper, normal)
  const length = Math.hypot(...u)
  const unit: Vector = [u[0] / length, u[1] / length, u[2] / length]
  return [unit, cross(normal, unit)]
}

/**
 * Vertices that may lie on the hull: those that lie strictly inside the shape spanned by the outermost ones
 * of 26 directions cannot.
 * Source: the filter of Akl and Toussaint, in space.
 */
export function outerPoints({ positionsMm: p, corners }: Mesh): [number, number, number][] {
  const used = new Uint8Array(p.length / 3)
  for (const v of corners) used[v] = 1
  const directions: Vector[] = []
  for (let x = -1; x <= 1; x++)
    for (let y = -1; y <= 1; y++)
      for (let z = -1; z <= 1; z++) if (x !== 0 || y !== 0 || z !== 0) directions.push([x, y, z])
  const limits = directions.map(() => -Infinity)
  for (let v = 0; v < used.length; v++)
    if (used[v])
      directions.forEach(([x, y, z], k) => {
        const value = x * p[3 * v] + y * p[3 * v + 1] + z * p[3 * v + 2]
        if (value > limits[k]) limits[k] = value
      })
  // A ball around the middle of the box that touches none of the 26 planes' supports: whatever lies well
  // within cannot be outermost.
  const middle = [0, 1, 2].map((axis) => {
    const along = directions.findIndex(
      (d) => d[axis] === 1 && d.every((value, i) => i === axis || value === 0),
    )
    const against = directions.findIndex(
      (d) => d[axis] === -1 && d.every((value, i) => i === axis || value === 0),
    )
    return (limits[along] - limits[against]) / 2
  })
  const extremes = directions.map((d, k) => firstAt(p, used, d, limits[k]))
  const radius = insideRadius(
    extremes.map((v) => [p[3 * v], p[3 * v + 1], p[3 * v + 2]] as const),
    middle,
  )
  const kept: [number, number, number][] = []
  for (let v = 0; v < used.length; v++)
    if (
      used[v] &&
      Math.hypot(p[3 * v] - middle[0], p[3 * v + 1] - middle[1], p[3 * v + 2] - middle[2]) >= radius
    )
      kept.push([p[3 * v], p[3 * v + 1], p[3 * v + 2]])
  return kept
}

function firstAt(p: Float64Array, used: Uint8Array, [x, y, z]: Vector, limit: number): number {
  for (let v = 0; v < used.length; v++)
    if (used[v] && x * p[3 * v] + y * p[3 * v + 1] + z * p[3 * v + 2] >= limit) return v
  return 0
}

/**
 * Radius of a ball around a place that surely lies inside the hull of some points: bounded by the support of
 * the points in many directions.
 */
function insideRadius(points: readonly Vector[], middle: readonly number[]): number {
  let radius = Infinity
  for (const [x, y, z] of sphereDirections(400)) {
    let support = -Infinity
    for (const point of points)
      support = Math.max(
        support,
        x * (point[0] - middle[0]) + y * (point[1] - middle[1]) + z * (point[2] - middle[2]),
      )
    radius = Math.min(radius, support)
  }
  // Between the directions tried the support may be a little smaller still.
  return Math.max(0, radius * 0.9)
}

/** Evenly spread unit vectors. Source: Fibonacci lattice. */
export function sphereDirections(count: number): [number, number, number][] {
  return Array.from({ length: count }, (_, i) => {
    const z = 1 - (2 * i + 1) / count
    const angle = i * Math.PI * (3 - Math.sqrt(5))
    const r = Math.sqrt(1 - z * z)
    return [r * Math.cos(angle), r * Math.sin(angle), z]
  })
}
