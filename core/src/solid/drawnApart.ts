import { sharedSides, weldCorners, type Mesh } from '../mesh'
import { GRID_PER_MM } from '../tolerances'
import { apart } from './apart'

/** How far a corner is moved: far less than a printer can place, and still another place in a file. */
const MOVED_MM = 2 / GRID_PER_MM
/** Directions that are tried, the one into the solid first. */
const DIRECTIONS = 8
/** Triangles around a corner that is moved keep such a share of their area at least. */
const LEAST_SHARE = 0.2
/** What was moved may touch anew. */
const MOST_ROUNDS = 4

/**
 * The same closed surface, its sheets nowhere touching along a line: what reads a file may join corners that
 * lie at one place, and would find a line that four faces meet. Corners of one of the sheets are moved by a
 * hair, sideways, into what is solid.
 */
export function drawnApart(given: Mesh): Mesh {
  let mesh: Mesh = { ...given, positionsMm: given.positionsMm.slice() }
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const joined = mesh.corners.slice()
    weldCorners(mesh.positionsMm, joined, 0, mesh.positionsMm.length / 3)
    const touching = touchingCorners(mesh, joined)
    if (touching === null) return mesh
    // Sheets that share both ends of the line need corners of their own first.
    if (touching.size === 0) mesh = apart(mesh)
    else moveInwards(mesh, touching)
  }
  return mesh
}

/**
 * Corners at the ends of lines that more than two faces meet, but for those that may stay where they are;
 * null without such lines.
 * @param joined corners of the triangles when those at one place are one
 */
function touchingCorners(mesh: Mesh, joined: Uint32Array): Set<number> | null {
  const { crowded } = sharedSides({ ...mesh, corners: joined })
  if (crowded.length === 0) return null
  const lineOf = (side: number) => {
    const [a, b] = [joined[side], joined[nextOf(side)]]
    return a < b ? a * joined.length + b : b * joined.length + a
  }
  const lines = new Set(crowded.map(lineOf))
  const found = new Set<number>()
  for (let side = 0; side < joined.length; side++)
    if (lines.has(lineOf(side)))
      for (const end of [side, nextOf(side)])
        if (mesh.corners[end] !== joined[end]) found.add(mesh.corners[end])
  return found
}

const nextOf = (side: number): number => (side % 3 === 2 ? side - 2 : side + 1)

/** Moves corners into the solid, as long as no triangle around them turns over or loses its area. */
function moveInwards({ positionsMm: p, corners }: Mesh, which: ReadonlySet<number>): void {
  const around = new Map<number, number[]>()
  for (let c = 0; c < corners.length; c++)
    if (which.has(corners[c])) {
      const sides = around.get(corners[c])
      if (sides) sides.push(c - (c % 3))
      else around.set(corners[c], [c - (c % 3)])
    }
  for (const [corner, triangles] of around) {
    const normals = triangles.map((t) => normalOf(p, corners, t))
    const inwards = Math.atan2(
      -normals.reduce((sum, [, y]) => sum + y, 0),
      -normals.reduce((sum, [x]) => sum + x, 0),
    )
    const [x, y] = [p[3 * corner], p[3 * corner + 1]]
    for (let n = 0; n < DIRECTIONS; n++) {
      const turn = inwards + (n % 2 === 0 ? n : -n - 1) * (Math.PI / DIRECTIONS)
      p[3 * corner] = onGrid(x + MOVED_MM * Math.cos(turn))
      p[3 * corner + 1] = onGrid(y + MOVED_MM * Math.sin(turn))
      const isSound = triangles.every((t, i) => {
        const [ax, ay, az] = normals[i]
        const [bx, by, bz] = normalOf(p, corners, t)
        return ax * bx + ay * by + az * bz > LEAST_SHARE * (ax * ax + ay * ay + az * az)
      })
      if (isSound) break
      ;[p[3 * corner], p[3 * corner + 1]] = [x, y]
    }
  }
}

const onGrid = (mm: number): number => Math.round(mm * GRID_PER_MM) / GRID_PER_MM

/** A triangle's normal, as long as twice its area. */
function normalOf(p: Float64Array, corners: Uint32Array, t: number): readonly [number, number, number] {
  const [a, b, c] = [3 * corners[t], 3 * corners[t + 1], 3 * corners[t + 2]]
  const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]]
  const [wx, wy, wz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]]
  return [uy * wz - uz * wy, uz * wx - ux * wz, ux * wy - uy * wx]
}
