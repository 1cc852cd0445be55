import { strToU8 } from 'fflate'
import { triangleCount, type Mesh } from './mesh'

/** Writes a mesh as binary STL. */
export function writeStl(mesh: Mesh): Uint8Array {
  const count = triangleCount(mesh)
  const bytes = new Uint8Array(84 + count * 50)
  bytes.set(strToU8('Tender Bridge part, millimetres'))
  const view = new DataView(bytes.buffer)
  view.setUint32(80, count, true)
  const { positionsMm, corners } = mesh
  for (let t = 0; t < count; t++) {
    const at = 84 + 50 * t
    const [a, b, c] = [corners[3 * t] * 3, corners[3 * t + 1] * 3, corners[3 * t + 2] * 3]
    const ux = positionsMm[b] - positionsMm[a]
    const uy = positionsMm[b + 1] - positionsMm[a + 1]
    const uz = positionsMm[b + 2] - positionsMm[a + 2]
    const vx = positionsMm[c] - positionsMm[a]
    const vy = positionsMm[c + 1] - positionsMm[a + 1]
    const vz = positionsMm[c + 2] - positionsMm[a + 2]
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
    const length = Math.hypot(n[0], n[1], n[2]) || 1
    for (let i = 0; i < 3; i++) {
      view.setFloat32(at + 4 * i, n[i] / length, true)
      view.setFloat32(at + 12 + 4 * i, positionsMm[a + i], true)
      view.setFloat32(at + 24 + 4 * i, positionsMm[b + i], true)
      view.setFloat32(at + 36 + 4 * i, positionsMm[c + i], true)
    }
  }
  return bytes
}
