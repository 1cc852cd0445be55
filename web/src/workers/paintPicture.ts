import { meshBounds, type Mesh } from '@tender/core/mesh'

const VIEW = [0.52, -0.7, 0.48] as const
const LIGHT = [0.25, -0.55, 0.8] as const

/** A mesh and the colour its lit faces have, red, green and blue up to 255. */
export type Painted = { readonly mesh: Mesh; readonly colour: readonly [number, number, number] }

/** The grey of parts. */
export const PART_GREY: Painted['colour'] = [178, 181, 192]
export const SMALL_PICTURE = { width: 400, height: 288 } as const

/** Dots per picture dot and side, averaged afterwards so that edges are smooth. */
const FINER = 2

/**
 * Paints meshes as seen from a corner, the nearest surface at every dot, and gives them as a PNG data
 * address.
 */
export async function paintPicture(
  bodies: readonly Painted[],
  { width, height }: { readonly width: number; readonly height: number } = SMALL_PICTURE,
): Promise<string> {
  const [wide, tall] = [width * FINER, height * FINER]
  const seen = look(bodies, wide, tall)
  const nearest = new Float32Array(wide * tall).fill(-Infinity)
  const dots = new Uint8ClampedArray(wide * tall * 4)
  bodies.forEach(({ mesh: { positionsMm: p, corners }, colour }, body) => {
    const { x, y, depth } = seen[body]
    for (let t = 0; t < corners.length; t += 3) {
      const [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]]
      // Twice the area on the picture; what faces away is not seen.
      const area = (x[b] - x[a]) * (y[c] - y[a]) - (y[b] - y[a]) * (x[c] - x[a])
      if (area >= 0) continue
      const [ux, uy, uz] = [p[3 * b] - p[3 * a], p[3 * b + 1] - p[3 * a + 1], p[3 * b + 2] - p[3 * a + 2]]
      const [vx, vy, vz] = [p[3 * c] - p[3 * a], p[3 * c + 1] - p[3 * a + 1], p[3 * c + 2] - p[3 * a + 2]]
      const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
      const shade =
        0.66 + (0.4 * (nx * LIGHT[0] + ny * LIGHT[1] + nz * LIGHT[2])) / (Math.hypot(nx, ny, nz) || 1)
      const [left, right] = [
        Math.max(0, Math.ceil(Math.min(x[a], x[b], x[c]))),
        Math.min(wide - 1, Math.floor(Math.max(x[a], x[b], x[c]))),
      ]
      const [top, bottom] = [
        Math.max(0, Math.ceil(Math.min(y[a], y[b], y[c]))),
        Math.min(tall - 1, Math.floor(Math.max(y[a], y[b], y[c]))),
      ]
      for (let py = top; py <= bottom; py++)
        for (let px = left; px <= right; px++) {
          const wa = ((x[b] - px) * (y[c] - py) - (y[b] - py) * (x[c] - px)) / area
          const wb = ((x[c] - px) * (y[a] - py) - (y[c] - py) * (x[a] - px)) / area
          const wc = 1 - wa - wb
          if (wa < 0 || wb < 0 || wc < 0) continue
          const at = py * wide + px
          const near = wa * depth[a] + wb * depth[b] + wc * depth[c]
          if (near <= nearest[at]) continue
          nearest[at] = near
          for (let part = 0; part < 3; part++) dots[4 * at + part] = colour[part] * shade
          dots[4 * at + 3] = 255
        }
    }
  })
  return pngOf(dots, wide, tall, width, height)
}

/** Corners of every mesh on the picture, all together filling it. */
function look(bodies: readonly Painted[], wide: number, tall: number) {
  const min = [Infinity, Infinity, Infinity]
  const max = [-Infinity, -Infinity, -Infinity]
  for (const { mesh } of bodies) {
    const bounds = meshBounds(mesh)
    for (let axis = 0; axis < 3; axis++) {
      min[axis] = Math.min(min[axis], bounds.min[axis])
      max[axis] = Math.max(max[axis], bounds.max[axis])
    }
  }
  const middle = [0, 1, 2].map((axis) => (min[axis] + max[axis]) / 2)
  const seen = bodies.map(({ mesh }) => project(mesh, middle))
  let [reachX, reachY] = [1e-6, 1e-6]
  for (const { x, y } of seen)
    for (let v = 0; v < x.length; v++) {
      reachX = Math.max(reachX, Math.abs(x[v]))
      reachY = Math.max(reachY, Math.abs(y[v]))
    }
  const scale = Math.min((wide * 0.47) / reachX, (tall * 0.46) / reachY)
  for (const { x, y } of seen)
    for (let v = 0; v < x.length; v++) {
      x[v] = wide / 2 + scale * x[v]
      y[v] = tall / 2 - scale * y[v]
    }
  return seen
}

async function pngOf(
  dots: Uint8ClampedArray<ArrayBuffer>,
  wide: number,
  tall: number,
  width: number,
  height: number,
): Promise<string> {
  const fine = new OffscreenCanvas(wide, tall)
  fine.getContext('2d')!.putImageData(new ImageData(dots, wide, tall), 0, 0)
  const canvas = new OffscreenCanvas(width, height)
  const pen = canvas.getContext('2d')!
  pen.imageSmoothingQuality = 'high'
  pen.drawImage(fine, 0, 0, width, height)
  const bytes = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer())
  let text = ''
  for (let at = 0; at < bytes.length; at += 8192)
    text += String.fromCharCode(...bytes.subarray(at, at + 8192))
  return `data:image/png;base64,${btoa(text)}`
}

/** Where each corner falls on the picture, and how near it is. */
function project({ positionsMm: p }: Mesh, middle: readonly number[]) {
  const length = Math.hypot(VIEW[0], VIEW[1])
  const right = [-VIEW[1] / length, VIEW[0] / length]
  const up = [-VIEW[2] * (VIEW[0] / length), -VIEW[2] * (VIEW[1] / length), length]
  const vertices = p.length / 3
  const [x, y, depth] = [new Float32Array(vertices), new Float32Array(vertices), new Float32Array(vertices)]
  for (let v = 0; v < vertices; v++) {
    const [dx, dy, dz] = [p[3 * v] - middle[0], p[3 * v + 1] - middle[1], p[3 * v + 2] - middle[2]]
    x[v] = dx * right[0] + dy * right[1]
    y[v] = dx * up[0] + dy * up[1] + dz * up[2]
    depth[v] = dx * VIEW[0] + dy * VIEW[1] + dz * VIEW[2]
  }
  return { x, y, depth }
}
