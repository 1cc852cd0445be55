import earcut from 'earcut'
import { strFromU8 } from 'fflate'
import { TenderError } from '../errors'
import { weldTriangles } from './mesh'
import { startOfText } from './text'
import type { ReadMesh } from './readMesh'
import { leftOutNote, TriangleList } from './triangleList'

/** Text is looked through in pieces of this many bytes: one string of a whole large file would not fit. */
const PIECE_BYTES = 4 * 1024 * 1024
const LONGEST_NAME = 80
const LONGEST_LINE = 1024 * 1024

/**
 * Reads an OBJ file: vertices and faces of any number of corners, indices from the front or, negative, from
 * the end. Objects and groups become bodies; textures, normals and materials are passed over. Faces of more
 * than four corners are cut into triangles in their own plane.
 * @throws TenderError FILE_NOT_MESH, FILE_TOO_LARGE, MESH_EMPTY, MESH_NOT_FINITE
 */
export function readObj(bytes: Uint8Array): ReadMesh {
  const list = new TriangleList()
  let badFaces = 0
  let badVertices = 0
  let continued = ''
  for (const raw of linesOf(bytes)) {
    const line = continued + raw
    // A backslash at the end carries the line on.
    if (line.endsWith('\\')) {
      continued = `${line.slice(0, -1)} `
      continue
    }
    continued = ''
    const words = line.trim().split(/\s+/)
    if (words[0] === 'o' || words[0] === 'g') list.startBody(words.slice(1).join(' ').slice(0, LONGEST_NAME))
    else if (words[0] === 'v') {
      const [x, y, z] = [Number(words[1]), Number(words[2]), Number(words[3])]
      if (!Number.isFinite(x + y + z)) badVertices++
      // A bad one keeps its number, or all that follow would move up.
      list.addVertex(x, y, z)
    } else if (words[0] === 'f') {
      const corners = words.slice(1).map((word) => cornerOf(word, list.vertices))
      if (corners.length < 3 || corners.some((corner) => corner < 0)) badFaces++
      else addFace(list, corners)
    }
  }
  if (list.vertices === 0 && badFaces === 0)
    throw new TenderError(
      'FILE_NOT_MESH',
      'The file is text without a single vertex line; it is no OBJ file.',
    )
  if (list.triangles === 0)
    throw new TenderError(
      'MESH_EMPTY',
      `The file has ${list.vertices} vertices and no face that can be used; there is nothing to print.`,
    )
  const { mesh, leftOut } = list.finish()
  const notes = [
    ...(badFaces > 0
      ? [
          `${badFaces} face${badFaces === 1 ? ' names' : 's name'} a corner that is not there, or fewer than three; left out.`,
        ]
      : []),
    ...(badVertices > 0
      ? [
          `${badVertices} vertex line${badVertices === 1 ? ' holds' : 's hold'} something that is not a number.`,
        ]
      : []),
    ...leftOutNote(leftOut),
  ]
  const soup = new Float64Array(mesh.corners.length * 3)
  for (let c = 0; c < mesh.corners.length; c++)
    for (let axis = 0; axis < 3; axis++) soup[3 * c + axis] = mesh.positionsMm[3 * mesh.corners[c] + axis]
  return { mesh: weldTriangles(soup, mesh.bodies), notes }
}

function* linesOf(bytes: Uint8Array): Generator<string> {
  let rest = ''
  for (let at = startOfText(bytes); at < bytes.length; at += PIECE_BYTES) {
    const lines = (rest + strFromU8(bytes.subarray(at, at + PIECE_BYTES), true)).split(/\r\n|\n|\r/)
    rest = lines.pop()!
    if (rest.length > LONGEST_LINE)
      throw new TenderError(
        'FILE_NOT_MESH',
        `A line of the file is longer than ${LONGEST_LINE} characters; it is no OBJ file.`,
      )
    yield* lines
  }
  yield rest
}

/** Vertex that a corner like 3, 3/1, 3//2 or -1 names; -1 when there is none. */
function cornerOf(word: string, vertices: number): number {
  const index = Number(word.split('/', 1)[0])
  if (!Number.isInteger(index) || index === 0) return -1
  const vertex = index > 0 ? index - 1 : vertices + index
  return vertex >= 0 && vertex < vertices ? vertex : -1
}

function addFace(list: TriangleList, corners: readonly number[]): void {
  if (corners.length === 3) return list.addTriangle(corners[0], corners[1], corners[2])
  for (const [a, b, c] of cutFace(list, corners)) list.addTriangle(corners[a], corners[b], corners[c])
}

/** Cuts a face in the plane it mostly lies in, turning the same way round as its corners. */
function cutFace(list: TriangleList, corners: readonly number[]): [number, number, number][] {
  // Newell's method: the normal of a face that need not be flat.
  const normal = [0, 0, 0]
  corners.forEach((corner, i) => {
    const next = corners[(i + 1) % corners.length]
    for (let axis = 0; axis < 3; axis++) {
      const [p, q] = [(axis + 1) % 3, (axis + 2) % 3]
      normal[axis] += (list.at(corner, p) - list.at(next, p)) * (list.at(corner, q) + list.at(next, q))
    }
  })
  const across = normal.map(Math.abs).indexOf(Math.max(...normal.map(Math.abs)))
  const [p, q] = [(Math.max(0, across) + 1) % 3, (Math.max(0, across) + 2) % 3]
  const flat = corners.flatMap((corner) => [list.at(corner, p), list.at(corner, q)])
  const cut = earcut(flat)
  const turned = normal[Math.max(0, across)] < 0
  const triangles: [number, number, number][] = []
  for (let i = 0; i + 2 < cut.length; i += 3) {
    const [a, b, c] = [cut[i], cut[i + 1], cut[i + 2]]
    const area =
      (flat[2 * b] - flat[2 * a]) * (flat[2 * c + 1] - flat[2 * a + 1]) -
      (flat[2 * b + 1] - flat[2 * a + 1]) * (flat[2 * c] - flat[2 * a])
    triangles.push(area < 0 === turned ? [a, b, c] : [a, c, b])
  }
  return triangles
}
