import { weldTriangles, type Mesh } from '../mesh'

type Point = readonly [number, number, number]

/** A closed box standing at x, y, z. */
export function box(sizeMm: Point, at: Point = [0, 0, 0]): Mesh {
  const [w, d, h] = sizeMm
  const [x, y, z] = at
  const corner = (i: number): Point => [x + (i & 1 ? w : 0), y + (i & 2 ? d : 0), z + (i & 4 ? h : 0)]
  const faces = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ]
  return fromFaces(faces.map((face) => face.map(corner)))
}

/** Several boxes as one mesh; where they touch they stay separate shells. */
export const boxes = (list: readonly { size: Point; at: Point }[]): Mesh =>
  join(list.map(({ size, at }) => box(size, at)))

/** A 20 mm plate with a 4 mm post under its middle, 10 mm up. */
export const table: Mesh = boxes([
  { size: [4, 4, 10], at: [8, 8, 0] },
  { size: [20, 20, 2], at: [0, 0, 10] },
])

/** Puts meshes together without merging them. */
export function join(meshes: readonly Mesh[]): Mesh {
  const soup: number[] = []
  for (const { positionsMm, corners } of meshes)
    for (const corner of corners)
      soup.push(positionsMm[3 * corner], positionsMm[3 * corner + 1], positionsMm[3 * corner + 2])
  return weldTriangles(Float32Array.from(soup))
}

/** A mesh turned about the upright axis. */
export function spun(mesh: Mesh, deg: number): Mesh {
  const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
  const positionsMm = mesh.positionsMm.slice()
  for (let p = 0; p < positionsMm.length; p += 3) {
    const [x, y] = [mesh.positionsMm[p], mesh.positionsMm[p + 1]]
    positionsMm[p] = x * cos - y * sin
    positionsMm[p + 1] = x * sin + y * cos
  }
  return { ...mesh, positionsMm }
}

/**
 * Turns a closed profile of [radius, height] points, counter-clockwise with the axis on its left, about the
 * upright axis.
 */
export function turned(profile: readonly (readonly [number, number])[], segments = 96): Mesh {
  const point = ([r, z]: readonly [number, number], j: number): Point => {
    const turn = (2 * Math.PI * (j % segments)) / segments
    return [r * Math.cos(turn), r * Math.sin(turn), z]
  }
  const faces: Point[][] = []
  profile.forEach((from, i) => {
    const to = profile[(i + 1) % profile.length]
    for (let j = 0; j < segments; j++)
      faces.push([point(from, j), point(from, j + 1), point(to, j + 1), point(to, j)])
  })
  return fromFaces(faces)
}

/** A cone that widens upwards at an angle from vertical, on a small foot. */
export const cone = (leanDeg: number, heightMm = 12, footMm = 6): Mesh =>
  turned([
    [0, 0],
    [footMm, 0],
    [footMm, 1],
    [footMm + Math.tan((leanDeg * Math.PI) / 180) * heightMm, 1 + heightMm],
    [0, 1 + heightMm],
  ])

/** A ball whose lowest point is at z = 0. */
export function sphere(radiusMm: number, segments = 120): Mesh {
  const half = segments / 2
  const profile = Array.from({ length: half + 1 }, (_, i): [number, number] => {
    const turn = (Math.PI * i) / half
    return [i === 0 || i === half ? 0 : radiusMm * Math.sin(turn), radiusMm - radiusMm * Math.cos(turn)]
  })
  return turned(profile, segments)
}

function fromFaces(faces: readonly (readonly Point[])[]): Mesh {
  const soup: number[] = []
  for (const face of faces)
    for (let i = 1; i + 1 < face.length; i++) soup.push(...face[0], ...face[i], ...face[i + 1])
  return weldTriangles(Float32Array.from(soup))
}
