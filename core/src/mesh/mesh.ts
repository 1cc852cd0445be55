import { TenderError } from '../errors'

/** A run of triangles, from..to-1, that its file named or kept apart. */
export type Body = {
  readonly name: string
  readonly from: number
  readonly to: number
  /** The file itself says that this is a support. */
  readonly drawnStand?: true
}

/**
 * Vertex v: positionsMm[3v .. 3v+2] = x, y, z. Triangle t: corners[3t .. 3t+2], counter-clockwise from
 * outside. Bodies follow each other without gaps; a mesh without them is one body.
 */
export type Mesh = {
  readonly positionsMm: Float64Array
  readonly corners: Uint32Array
  readonly bodies?: readonly Body[]
}

export type Bounds3 = {
  readonly min: readonly [number, number, number]
  readonly max: readonly [number, number, number]
}

export const triangleCount = (mesh: Mesh): number => mesh.corners.length / 3

/** The box around all triangles; vertices that none of them uses do not count. */
export function meshBounds(mesh: Mesh): Bounds3 {
  const min: [number, number, number] = [Infinity, Infinity, Infinity]
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity]
  const { positionsMm, corners } = mesh
  for (let c = 0; c < corners.length; c++) {
    const at = 3 * corners[c]
    for (let axis = 0; axis < 3; axis++) {
      const value = positionsMm[at + axis]
      if (value < min[axis]) min[axis] = value
      if (value > max[axis]) max[axis] = value
    }
  }
  return { min, max }
}

/**
 * Lets corners point to the first of several vertices at the very same place, among vertices from..to-1.
 * @param corners changed where they stand
 */
export function weldCorners(positionsMm: Float64Array, corners: Uint32Array, from: number, to: number): void {
  const slots = 1 << Math.ceil(Math.log2(Math.max(8, to - from)) + 0.5)
  const table = new Int32Array(slots).fill(-1)
  const first = new Uint32Array(to - from)
  const words = new Int32Array(6)
  const exact = new Float64Array(words.buffer)
  let joined = false
  for (let v = from; v < to; v++) {
    // Adding zero turns -0 into 0, which has other bits but is the same place.
    for (let axis = 0; axis < 3; axis++) exact[axis] = positionsMm[3 * v + axis] + 0
    let mixed = 0
    for (const word of words) mixed = Math.imul(mixed ^ word, 0x9e3779b1) ^ (mixed >>> 13)
    let slot = (mixed ^ (mixed >>> 15)) & (slots - 1)
    let known = table[slot]
    while (known >= 0 && !samePlace(positionsMm, known, v)) known = table[(slot = (slot + 1) & (slots - 1))]
    if (known < 0) table[slot] = known = v
    else joined = true
    first[v - from] = known
  }
  if (joined) for (let c = 0; c < corners.length; c++) corners[c] = first[corners[c] - from]
}

const samePlace = (p: Float64Array, a: number, b: number): boolean =>
  p[3 * a] === p[3 * b] && p[3 * a + 1] === p[3 * b + 1] && p[3 * a + 2] === p[3 * b + 2]

/**
 * Joins equal corners of a triangle soup and drops triangles without area.
 * @param soupMm nine numbers a triangle
 * @param bodies runs of the soup's triangles
 * @throws TenderError MESH_EMPTY when nothing is left
 */
export function weldTriangles(soupMm: Float32Array | Float64Array, bodies?: readonly Body[]): Mesh {
  const corners = soupMm.length / 3
  const bits = 1 << Math.ceil(Math.log2(Math.max(8, corners)) + 0.5)
  const table = new Int32Array(bits).fill(-1)
  const mask = bits - 1
  const words = new Int32Array(3)
  const exact = new Float32Array(words.buffer)
  const positions = new Float64Array(soupMm.length)
  const index = new Uint32Array(corners)
  let vertices = 0
  for (let c = 0; c < corners; c++) {
    // Adding zero turns -0 into 0, which has other bits but is the same place.
    const x = soupMm[3 * c] + 0
    const y = soupMm[3 * c + 1] + 0
    const z = soupMm[3 * c + 2] + 0
    exact[0] = x
    exact[1] = y
    exact[2] = z
    let slot =
      (Math.imul(words[0], 0x9e3779b1) ^
        Math.imul(words[1], 0x85ebca6b) ^
        Math.imul(words[2], 0xc2b2ae35)) >>>
      0
    slot = (slot ^ (slot >>> 15)) & mask
    for (;;) {
      const v = table[slot]
      if (v < 0) {
        table[slot] = vertices
        positions[3 * vertices] = x
        positions[3 * vertices + 1] = y
        positions[3 * vertices + 2] = z
        index[c] = vertices++
        break
      }
      if (positions[3 * v] === x && positions[3 * v + 1] === y && positions[3 * v + 2] === z) {
        index[c] = v
        break
      }
      slot = (slot + 1) & mask
    }
  }
  let kept = 0
  for (let t = 0; t < corners; t += 3) {
    const a = index[t]
    const b = index[t + 1]
    const c = index[t + 2]
    if (a === b || b === c || c === a) continue
    index[kept] = a
    index[kept + 1] = b
    index[kept + 2] = c
    kept += 3
  }
  if (kept === 0)
    throw new TenderError('MESH_EMPTY', 'The file holds no triangle with an area; there is nothing to print.')
  const mesh = { positionsMm: positions.slice(0, vertices * 3), corners: index.slice(0, kept) }
  return bodies ? { ...mesh, bodies: trimmedBodies(bodies, (t) => dropped(t)) } : mesh

  function dropped(t: number): boolean {
    const at = (corner: number, axis: number) => soupMm[9 * t + 3 * corner + axis]
    const same = (a: number, b: number) =>
      at(a, 0) === at(b, 0) && at(a, 1) === at(b, 1) && at(a, 2) === at(b, 2)
    return same(0, 1) || same(1, 2) || same(2, 0)
  }
}

/** Bodies after some triangles are gone; bodies left without any go too. */
export function trimmedBodies(bodies: readonly Body[], isGone: (triangle: number) => boolean): Body[] {
  const left: Body[] = []
  let at = 0
  for (const body of bodies) {
    const start = at
    for (let t = body.from; t < body.to; t++) if (!isGone(t)) at++
    if (at > start) left.push({ ...body, from: start, to: at })
  }
  return left
}

/** The triangles of some bodies as a mesh of its own, sharing the vertices; null when there are none. */
export function meshOfBodies(mesh: Mesh, wanted: (body: number) => boolean): Mesh | null {
  const bodies = bodiesOf(mesh)
  if (bodies.every((_, i) => wanted(i))) return mesh
  const kept = bodies.filter((_, i) => wanted(i))
  if (kept.length === 0) return null
  const corners = new Uint32Array(3 * kept.reduce((sum, { from, to }) => sum + to - from, 0))
  let size = 0
  const runs = kept.map((body) => {
    corners.set(mesh.corners.subarray(3 * body.from, 3 * body.to), 3 * size)
    return { ...body, from: size, to: (size += body.to - body.from) }
  })
  return { positionsMm: mesh.positionsMm, corners, bodies: runs }
}

/** The same triangles with only the vertices that they use. */
export function compact({ positionsMm, corners }: Mesh): Mesh {
  const to = new Int32Array(positionsMm.length / 3).fill(-1)
  const places: number[] = []
  const own = corners.map((v) => {
    if (to[v] < 0) {
      to[v] = places.length / 3
      places.push(positionsMm[3 * v], positionsMm[3 * v + 1], positionsMm[3 * v + 2])
    }
    return to[v]
  })
  return { positionsMm: Float64Array.from(places), corners: own }
}

/** The bodies of a mesh; one of all triangles when it names none. */
export const bodiesOf = (mesh: Mesh): readonly Body[] =>
  mesh.bodies && mesh.bodies.length > 0 ? mesh.bodies : [{ name: '', from: 0, to: triangleCount(mesh) }]
