import { meshBounds, type Mesh } from '@tender/core/mesh'

const WIDTH = 400
const HEIGHT = 288
const VIEW = [0.52, -0.7, 0.48] as const
const LIGHT = [0.25, -0.55, 0.8] as const

/**
 * Paints a mesh as seen from a corner, farthest triangles first, and gives it as a PNG data address.
 * Painting in order is wrong where triangles cross in depth, which at this size nobody sees.
 */
export async function paintPicture({ positionsMm: p, corners }: Mesh): Promise<string> {
  const { min, max } = meshBounds({ positionsMm: p, corners })
  const middle = [0, 1, 2].map((axis) => (min[axis] + max[axis]) / 2)
  const length = Math.hypot(VIEW[0], VIEW[1])
  const right = [-VIEW[1] / length, VIEW[0] / length]
  const up = [-VIEW[2] * (VIEW[0] / length), -VIEW[2] * (VIEW[1] / length), length]
  const vertices = p.length / 3
  const x = new Float32Array(vertices)
  const y = new Float32Array(vertices)
  const depth = new Float32Array(vertices)
  let reachX = 1e-6
  let reachY = 1e-6
  for (let v = 0; v < vertices; v++) {
    const [dx, dy, dz] = [p[3 * v] - middle[0], p[3 * v + 1] - middle[1], p[3 * v + 2] - middle[2]]
    x[v] = dx * right[0] + dy * right[1]
    y[v] = dx * up[0] + dy * up[1] + dz * up[2]
    depth[v] = dx * VIEW[0] + dy * VIEW[1] + dz * VIEW[2]
    reachX = Math.max(reachX, Math.abs(x[v]))
    reachY = Math.max(reachY, Math.abs(y[v]))
  }
  const scale = Math.min((WIDTH * 0.44) / reachX, (HEIGHT * 0.44) / reachY)
  const facing: { t: number; depth: number; shade: number }[] = []
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]]
    if ((x[b] - x[a]) * (y[c] - y[a]) - (y[b] - y[a]) * (x[c] - x[a]) <= 0) continue
    const u = [0, 1, 2].map((axis) => p[3 * b + axis] - p[3 * a + axis])
    const v = [0, 1, 2].map((axis) => p[3 * c + axis] - p[3 * a + axis])
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
    const size = Math.hypot(...n) || 1
    const lit = (n[0] * LIGHT[0] + n[1] * LIGHT[1] + n[2] * LIGHT[2]) / size
    facing.push({ t, depth: depth[a] + depth[b] + depth[c], shade: 0.66 + 0.4 * lit })
  }
  facing.sort((a, b) => a.depth - b.depth)
  const canvas = new OffscreenCanvas(WIDTH, HEIGHT)
  const pen = canvas.getContext('2d')!
  pen.lineWidth = 0.6
  for (const { t, shade } of facing) {
    const tone = `rgb(${Math.round(178 * shade)} ${Math.round(181 * shade)} ${Math.round(192 * shade)})`
    pen.fillStyle = tone
    // The seam between neighbours would show the paper through.
    pen.strokeStyle = tone
    pen.beginPath()
    for (let i = 0; i < 3; i++) {
      const v = corners[t + i]
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
