import { TenderError } from '../errors'

/** Vertex v: positionsMm[3v .. 3v+2] = x, y, z. Triangle t: corners[3t .. 3t+2], counter-clockwise from outside. */
export type Mesh = { readonly positionsMm: Float64Array; readonly corners: Uint32Array }

export type Bounds3 = { readonly min: readonly [number, number, number]; readonly max: readonly [number, number, number] }

export const triangleCount = (mesh: Mesh): number => mesh.corners.length / 3

export function meshBounds(mesh: Mesh): Bounds3 {
  const min: [number, number, number] = [Infinity, Infinity, Infinity]
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity]
  const { positionsMm } = mesh
  for (let i = 0; i < positionsMm.length; i += 3)
    for (let axis = 0; axis < 3; axis++) {
      const value = positionsMm[i + axis]
      if (value < min[axis]) min[axis] = value
      if (value > max[axis]) max[axis] = value
    }
  return { min, max }
}

/**
 * Joins equal corners of a triangle soup and drops triangles without area.
 * @param soupMm nine numbers a triangle
 * @throws TenderError MESH_EMPTY when nothing is left
 */
export function weldTriangles(soupMm: Float32Array | Float64Array): Mesh {
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
    let slot = (Math.imul(words[0], 0x9e3779b1) ^ Math.imul(words[1], 0x85ebca6b) ^ Math.imul(words[2], 0xc2b2ae35)) >>> 0
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
  if (kept === 0) throw new TenderError('MESH_EMPTY', 'The file holds no triangle with an area; there is nothing to print.')
  return { positionsMm: positions.slice(0, vertices * 3), corners: index.slice(0, kept) }
}
