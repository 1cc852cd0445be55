import { weldCorners, type Mesh } from '../mesh'
import { apart } from './apart'

/**
 * The same closed surface without pairs of triangles that lie on each other, face to face, and without those
 * that have two corners at one place: where two of its sheets touch, nothing is between them, and a reader
 * that joins what lies at one place would find a triangle twice, or one that is a line.
 */
export function withoutTwofold(mesh: Mesh): Mesh {
  const { positionsMm, corners: given } = mesh
  const corners = given.slice()
  weldCorners(positionsMm, corners, 0, positionsMm.length / 3)
  /** Where several sheets, or two folds of one, have a corner. */
  const shared = new Uint8Array(positionsMm.length / 3)
  for (let i = 0; i < corners.length; i++) if (corners[i] !== given[i]) shared[corners[i]] = 1
  /** Triangles by their corners, in the order in which they name them. */
  const waiting = new Map<string, number[]>()
  const gone = new Set<number>()
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = fromTheLeast(corners[t], corners[t + 1], corners[t + 2])
    if (shared[a] + shared[b] + shared[c] === 0) continue
    // Two of its corners at one place: its neighbours on both sides meet there.
    if (a === b || b === c || c === a) {
      gone.add(t)
      continue
    }
    const other = waiting.get(`${a} ${c} ${b}`)?.pop()
    if (other !== undefined) gone.add(other).add(t)
    else waiting.set(`${a} ${b} ${c}`, [...(waiting.get(`${a} ${b} ${c}`) ?? []), t])
  }
  if (gone.size === 0) return mesh
  return apart({ positionsMm, corners: corners.filter((_, i) => !gone.has(i - (i % 3))) })
}

function fromTheLeast(a: number, b: number, c: number): readonly [number, number, number] {
  if (a < b && a < c) return [a, b, c]
  return b < c ? [b, c, a] : [c, a, b]
}
