import { meshBounds, type Mesh } from '@tender/core/mesh'

const VIEW = [0.52, -0.7, 0.48] as const
const LIGHT = [0.25, -0.55, 0.8] as const

/** A mesh and the colour its lit faces have, red, green and blue up to 255. */
export type Painted = { readonly mesh: Mesh; readonly colour: readonly [number, number, number] }

/** The grey of parts. */
export const PART_GREY: Painted['colour'] = [178, 181, 192]
export const SMALL_PICTURE = { width: 400, height: 288 } as const

/**
 * Paints meshes as seen from a corner, farthest triangles first, and gives them as a PNG data address.
 * Painting in order is wrong where triangles cross in depth, which at this size nobody sees.
 */
export async function paintPicture(bodies: readonly Painted[], { width: WIDTH, height: HEIGHT } = SMALL_PICTURE as { width: number; height: number }): Promise<string> {
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
  const length = Math.hypot(VIEW[0], VIEW[1])
  const right = [-VIEW[1] / length, VIEW[0] / length]
  const up = [-VIEW[2] * (VIEW[0] / length), -VIEW[2] * (VIEW[1] / length), length]
  const seen = bodies.map(({ mesh }) => project(mesh, middle, right, up))
  let reachX = 1e-6
  let reachY = 1e-6
  for (const { x, y } of seen)
    for (let v = 0; v < x.length; v++) {
      reachX = Math.max(reachX, Math.abs(x[v]))
      reachY = Math.max(reachY, Math.abs(y[v]))
    }
  const scale = Math.min((WIDTH * 0.47) / reachX, (HEIGHT * 0.46) / reachY)
  const facing: { body: number; t: number; depth: number; shade: number }[] = []
  bodies.forEach(({ mesh: { positionsMm: p, corners } }, body) => {
    const { x, y, depth } = seen[body]
    for (let t = 0; t < corners.length; t += 3) {
      const [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]]
      if ((x[b] - x[a]) * (y[c] - y[a]) - (y[b] - y[a]) * (x[c] - x[a]) <= 0) continue
      const u = [0, 1, 2].map((axis) => p[3 * b + axis] - p[3 * a + axis])
      const v = [0, 1, 2].map((axis) => p[3 * c + axis] - p[3 * a + axis])
      const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
      const size = Math.hypot(...n) || 1
      const lit = (n[0] * LIGHT[0] + n[1] * LIGHT[1] + n[2] * LIGHT[2]) / size
      facing.push({ body, t, depth: depth[a] + depth[b] + depth[c], shade: 0.66 + 0.4 * lit })
    }
  })
  facing.sort((a, b) => a.depth - b.depth)
  const canvas = new OffscreenCanvas(WIDTH, HEIGHT)
  const pen = canvas.getContext('2d')!
  pen.lineWidth = 0.6
  for (const { body, t, shade } of facing) {
    const { colour, mesh } = bodies[body]
    const { x, y } = seen[body]
    const tone = `rgb(${colour.map((part) => Math.min(255, Math.round(part * shade))).join(' ')})`
    pen.fillStyle = tone
    // The seam between neighbours would show the paper through.
    pen.strokeStyle = tone
    pen.beginPath()
    for (let i = 0; i < 3; i++) {
      const v = mesh.corners[t + i]
      pen.lineTo(WIDTH / 2 + x[v] * scale, HEIGHT / 2 - y[v] * scale)
    }
    pen.closePath()
    pen.fill()
    pen.stroke()
  }
  const bytes = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer())
  let text = ''
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192))
  return `data:image/png;base64,${btoa(text)}`
}

/** Where each corner falls on the picture, and how near it is. */
function project({ positionsMm: p }: Mesh, middle: readonly number[], right: readonly number[], up: readonly number[]) {
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
