import { meshBounds, type Mesh } from './mesh'

/**
 * A rough copy for drawing while the eye moves: vertices in the same cell of a grid become one, and what has
 * no area left is dropped.
 * @param cells along the longest side
 */
export function coarsen(mesh: Mesh, cells: number): Mesh {
  const { positionsMm: p, corners } = mesh
  const { min, max } = meshBounds(mesh)
  const size = Math.max(max[0] - min[0], max[1] - min[1], max[2] - min[2], 1e-9) / cells
  const home = new Map<number, number>()
  const to = new Int32Array(p.length / 3).fill(-1)
  const places: number[] = []
  const wide = cells + 2
  for (const v of corners) {
    if (to[v] >= 0) continue
    const key =
      Math.floor((p[3 * v] - min[0]) / size) +
      wide * (Math.floor((p[3 * v + 1] - min[1]) / size) + wide * Math.floor((p[3 * v + 2] - min[2]) / size))
    let own = home.get(key)
    if (own === undefined) {
      home.set(key, (own = places.length / 3))
      places.push(p[3 * v], p[3 * v + 1], p[3 * v + 2])
    }
    to[v] = own
  }
  const kept: number[] = []
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [to[corners[t]], to[corners[t + 1]], to[corners[t + 2]]]
    if (a !== b && b !== c && c !== a) kept.push(a, b, c)
  }
  return { positionsMm: Float64Array.from(places), corners: Uint32Array.from(kept) }
}
