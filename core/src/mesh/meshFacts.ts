import { meshEdges } from './edges'
import { meshBounds, triangleCount, type Mesh } from './mesh'

export type MeshFacts = {
  readonly triangles: number
  readonly sizeMm: readonly [number, number, number]
  /** Enclosed volume, positive when triangles face outwards; only meaningful for a closed mesh. */
  readonly volumeMm3: number
  readonly areaMm2: number
  readonly watertight: boolean
  readonly openEdges: number
  readonly shells: number
}

/**
 * What can be said of a mesh at a glance.
 * @param openEdges when they have been counted before: turning a mesh leaves them as they are
 */
export function meshFacts(mesh: Mesh, openEdges: number = meshEdges(mesh).openCount): MeshFacts {
  const { min, max } = meshBounds(mesh)
  const { positionsMm: p, corners } = mesh
  let six = 0
  let twiceArea = 0
  // Measured from the box's middle: far from the origin, large terms would cancel and take digits with them.
  const ox = (min[0] + max[0]) / 2
  const oy = (min[1] + max[1]) / 2
  const oz = (min[2] + max[2]) / 2
  const parent = new Int32Array(p.length / 3)
  for (let v = 0; v < parent.length; v++) parent[v] = v
  const root = (v: number) => {
    while (parent[v] !== v) v = parent[v] = parent[parent[v]]
    return v
  }
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [corners[t] * 3, corners[t + 1] * 3, corners[t + 2] * 3]
    const ax = p[a] - ox
    const ay = p[a + 1] - oy
    const az = p[a + 2] - oz
    const ux = p[b] - p[a]
    const uy = p[b + 1] - p[a + 1]
    const uz = p[b + 2] - p[a + 2]
    const vx = p[c] - p[a]
    const vy = p[c + 1] - p[a + 1]
    const vz = p[c + 2] - p[a + 2]
    const nx = uy * vz - uz * vy
    const ny = uz * vx - ux * vz
    const nz = ux * vy - uy * vx
    six += ax * nx + ay * ny + az * nz
    twiceArea += Math.hypot(nx, ny, nz)
    const ra = root(corners[t])
    parent[root(corners[t + 1])] = ra
    parent[root(corners[t + 2])] = ra
  }
  let shells = 0
  const isUsed = new Uint8Array(parent.length)
  for (const v of corners) isUsed[v] = 1
  for (let v = 0; v < parent.length; v++) if (parent[v] === v && isUsed[v] === 1) shells++
  return {
    triangles: triangleCount(mesh),
    sizeMm: [max[0] - min[0], max[1] - min[1], max[2] - min[2]],
    volumeMm3: six / 6,
    areaMm2: twiceArea / 2,
    watertight: openEdges === 0,
    openEdges,
    shells,
  }
}

export type UnitGuess = {
  readonly unit: 'mm' | 'inch' | 'm'
  readonly scale: number
  readonly sentence: string | null
}

/**
 * Guesses the unit a mesh was drawn in from its largest side, where the file does not say. Asked about when
 * it is not millimetres.
 */
export function guessUnit(largestSideMm: number, unitKnown = false): UnitGuess {
  if (unitKnown) return { unit: 'mm', scale: 1, sentence: null }
  const size = largestSideMm.toPrecision(3)
  if (largestSideMm < 0.5)
    return {
      unit: 'm',
      scale: 1000,
      sentence: `The longest side is ${size}. Drawn in metres, it would be ${(largestSideMm * 1000).toPrecision(3)} mm.`,
    }
  if (largestSideMm < 6)
    return {
      unit: 'inch',
      scale: 25.4,
      sentence: `The longest side is ${size}. Drawn in inches, it would be ${(largestSideMm * 25.4).toPrecision(3)} mm.`,
    }
  return { unit: 'mm', scale: 1, sentence: null }
}
