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
    return all.map(({ name, from }, i) => ({ name, from, to: all[i + 1]?.from ?? this.triangles })).filter(({ from, to }) => to > from)
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
    if (this.triangles >= MOST_TRIANGLES) throw new TenderError('FILE_TOO_LARGE', `The file has more than ${MOST_TRIANGLES} triangles; up to that many can be read.`)
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
    const usable = new Uint8Array(this.vertices)
    for (let v = 0; v < this.vertices; v++) usable[v] = [0, 1, 2].every((axis) => Math.abs(this.at(v, axis)) <= LARGEST_COORDINATE_MM) ? 1 : 0
    const kept = new Uint32Array(3 * this.triangles)
    let size = 0
    let flat = 0
    const gone = new Uint8Array(this.triangles)
    for (let t = 0; t < 3 * this.triangles; t += 3) {
      const [a, b, c] = [this.indices[t], this.indices[t + 1], this.indices[t + 2]]
      const isFlat = a === b || b === c || c === a
      if (isFlat || !usable[a] || !usable[b] || !usable[c]) {
        if (isFlat && usable[a] && usable[b] && usable[c]) flat++
        gone[t / 3] = 1
        continue
      }
      kept.set([a, b, c], size)
      size += 3
    }
    if (size === 0) {
      if (this.triangles > flat) throw new TenderError('MESH_NOT_FINITE', `None of the ${this.triangles} triangles has usable corners: every one holds a value that is not a number or beyond 100 m.`)
      throw new TenderError('MESH_EMPTY', 'The file holds no triangle with an area; there is nothing to print.')
    }
    const bodies = trimmedBodies(this.bodies, (t) => gone[t] === 1)
    return { mesh: { positionsMm: this.positions.slice(0, 3 * this.vertices), corners: kept.slice(0, size), ...(bodies.length > 1 ? { bodies } : {}) }, leftOut: this.triangles - size / 3 - flat }
  }
}

/** Says what was left out; empty when nothing was. */
export const leftOutNote = (leftOut: number): string[] =>
  leftOut > 0
    ? [`${leftOut} triangle${leftOut === 1 ? ' has' : 's have'} a corner that is not a number or lies beyond 100 m; ${leftOut === 1 ? 'it was' : 'they were'} left out, the others kept.`]
    : []
