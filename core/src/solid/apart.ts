import { meshEdges, sharedSides, type Mesh } from '../mesh'

/** A closed surface whose sheets may touch, as one in which every line is met by exactly two faces. */
export const apart = (mesh: Mesh): Mesh => partDoubleSides(splitTouching(mesh))

/**
 * Gives sheets that only touch in a line or a point vertices of their own, so that every line is met by
 * exactly two faces.
 */
function splitTouching({ positionsMm, corners }: Mesh): Mesh {
  const { sideEdge, count } = meshEdges({ positionsMm, corners })
  const parent = Int32Array.from(corners, (_, i) => i)
  const root = (i: number) => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]]
    return i
  }
  const next = (side: number) => (side % 3 === 2 ? side - 2 : side + 1)
  const first = new Int32Array(count).fill(-1)
  for (let side = 0; side < corners.length; side++) {
    const other = first[sideEdge[side]]
    if (other < 0) {
      first[sideEdge[side]] = side
      continue
    }
    // The two run against each other: one's start is the other's end.
    parent[root(side)] = root(next(other))
    parent[root(next(side))] = root(other)
  }
  const places: number[] = []
  const vertexOf = new Int32Array(corners.length).fill(-1)
  const split = corners.map((corner, i) => {
    const home = root(i)
    if (vertexOf[home] < 0) {
      vertexOf[home] = places.length / 3
      places.push(positionsMm[3 * corner], positionsMm[3 * corner + 1], positionsMm[3 * corner + 2])
    }
    return vertexOf[home]
  })
  return { positionsMm: Float64Array.from(places), corners: split }
}

/**
 * Two lines between the same two points, each met by two faces of its own: one of them gets a point in its
 * middle, so that they can be told apart.
 */
function partDoubleSides(mesh: Mesh): Mesh {
  const places = Array.from(mesh.positionsMm)
  let corners = mesh.corners
  for (;;) {
    const { partner, crowded } = sharedSides({ positionsMm: mesh.positionsMm, corners })
    if (crowded.length === 0) return { positionsMm: Float64Array.from(places), corners }
    const middles = new Map<number, number>()
    for (const side of crowded) {
      // One of its pairs of faces is told apart from the others.
      const pair = [side, partner[side] >> 1]
      // One line a triangle and round; the rest comes in the next.
      if (pair.some((one) => [0, 1, 2].some((i) => middles.has(one - (one % 3) + i)))) continue
      const from = corners[side]
      const to = corners[side % 3 === 2 ? side - 2 : side + 1]
      for (const one of pair) middles.set(one, places.length / 3)
      for (let axis = 0; axis < 3; axis++) places.push((places[3 * from + axis] + places[3 * to + axis]) / 2)
    }
    const next: number[] = []
    for (let t = 0; t < corners.length; t += 3) {
      const i = [0, 1, 2].findIndex((side) => middles.has(t + side))
      if (i < 0) next.push(corners[t], corners[t + 1], corners[t + 2])
      else {
        const [a, b, c] = [0, 1, 2].map((k) => corners[t + ((i + k) % 3)])
        const middle = middles.get(t + i)!
        next.push(a, middle, c, middle, b, c)
      }
    }
    corners = Uint32Array.from(next)
  }
}
