import { TenderError } from '../errors'
import { trimmedBodies, type Body, type Mesh } from './mesh'

/** More triangles than any file of the size we take can hold in earnest. */
export const MOST_TRIANGLES = 20e6
/** Larger than any desktop printer's bed by far: a coordinate beyond it is noise or a wrong unit. */
export const LARGEST_COORDINATE_MM = 1e5

/** Gathers vertices and triangles into flat arrays that grow as needed. */
export class TriangleList {
  private positions = new Float64Array(3 * 1024)
  private indices = new Uint32Array(3 * 1024)
  private readonly named: { name: string; from: number }[] = []
  vertices = 0
  triangles = 0

  /** What follows belongs to a body of this name. */
  startBody(name: string): void {
    this.named.push({ name, from: this.triangles })
  }

  /** Bodies so far; those without triangles are left out, and one alone is the whole. */
  get bodies(): Body[] {
    const first = this.named[0]?.from ?? 0
    const all = first > 0 ? [{ name: '', from: 0 }, ...this.named] : this.named
    return all
      .map(({ name, from }, i) => ({ name, from, to: all[i + 1]?.from ?? this.triangles }))
      .filter(({ from, to }) => to > from)
  }

  addVertex(x: number, y: number, z: number): void {
    if (3 * this.vertices + 3 > this.positions.length) {
      const larger = new Float64Array(this.positions.length * 2)
      larger.set(this.positions)
      this.positions = larger
    }
    this.positions.set([x, y, z], 3 * this.vertices++)
  }

  /** @throws TenderError FILE_TOO_LARGE */
  addTriangle(a: number, b: number, c: number): void {
    if (this.triangles >= MOST_TRIANGLES)
      throw new TenderError(
        'FILE_TOO_LARGE',
        `The file has more than ${MOST_TRIANGLES} triangles; up to that many can be read.`,
      )
    if (3 * this.triangles + 3 > this.indices.length) {
      const larger = new Uint32Array(this.indices.length * 2)
      larger.set(this.indices)
      this.indices = larger
    }
    this.indices.set([a, b, c], 3 * this.triangles++)
  }

  /** Coordinate of a vertex; axis 0, 1, 2. */
  at(vertex: number, axis: number): number {
    return this.positions[3 * vertex + axis]
  }

  /** The triangles as they are, their corners not yet checked. */
  get corners(): Uint32Array {
    return this.indices.subarray(0, 3 * this.triangles)
  }

  /**
   * A mesh of the triangles whose corners can be used, and how many could not.
   * @throws TenderError MESH_EMPTY, MESH_NOT_FINITE
   */
  finish(): { readonly mesh: Mesh; readonly leftOut: number } {
    return meshFrom(this.positions.subarray(0, 3 * this.vertices), this.corners, this.bodies)
  }
}

/**
 * A mesh of the triangles whose corners can be used, without the vertices that none uses, and how many
 * triangles could not be taken.
 * @throws TenderError MESH_EMPTY, MESH_NOT_FINITE
 */
export function meshFrom(
  positions: Float64Array,
  corners: Uint32Array,
  bodies: readonly Body[],
): { readonly mesh: Mesh; readonly leftOut: number } {
  const vertices = positions.length / 3
  const triangles = corners.length / 3
  const usable = new Uint8Array(vertices)
  for (let v = 0; v < 3 * vertices; v += 3)
    usable[v / 3] =
      Math.abs(positions[v]) <= LARGEST_COORDINATE_MM &&
      Math.abs(positions[v + 1]) <= LARGEST_COORDINATE_MM &&
      Math.abs(positions[v + 2]) <= LARGEST_COORDINATE_MM
        ? 1
        : 0
  const kept = new Uint32Array(corners.length)
  const places = new Float64Array(positions.length)
  const numberOf = new Int32Array(vertices).fill(-1)
  const gone = new Uint8Array(triangles)
  let used = 0
  let size = 0
  let flat = 0
  const keep = (v: number) => {
    if (numberOf[v] < 0) {
      numberOf[v] = used
      for (let axis = 0; axis < 3; axis++) places[3 * used + axis] = positions[3 * v + axis]
      used++
    }
    kept[size++] = numberOf[v]
  }
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]]
    const isFlat = a === b || b === c || c === a
    const isUsable = usable[a] === 1 && usable[b] === 1 && usable[c] === 1
    if (!isFlat && isUsable) for (const v of [a, b, c]) keep(v)
    else {
      if (isFlat && isUsable) flat++
      gone[t / 3] = 1
    }
  }
  if (size === 0) {
    if (triangles > flat)
      throw new TenderError(
        'MESH_NOT_FINITE',
        `None of the ${triangles} triangles has usable corners: every one holds a value that is not a number or beyond 100 m.`,
      )
    throw new TenderError('MESH_EMPTY', 'The file holds no triangle with an area; there is nothing to print.')
  }
  const left = trimmedBodies(bodies, (t) => gone[t] === 1)
  return {
    mesh: {
      positionsMm: places.slice(0, 3 * used),
      corners: kept.slice(0, size),
      ...(left.length > 1 || left[0]?.drawnStand ? { bodies: left } : {}),
    },
    leftOut: triangles - size / 3 - flat,
  }
}

/** Says what was left out; empty when nothing was. */
export const leftOutNote = (leftOut: number): string[] =>
  leftOut > 0
    ? [
        `${leftOut} triangle${leftOut === 1 ? ' has' : 's have'} a corner that is not a number or lies beyond 100 m; ${leftOut === 1 ? 'it was' : 'they were'} left out, the others kept.`,
      ]
    : []
