import { poseMesh, UPRIGHT, weldTriangles, type Mesh, type SolidEngine } from '@tender/core/mesh'

/** A stack of ribbed bowls: overhangs past any limit every 20 mm, and no layer equal to the next. Closed. */
export function ribbedBowls(triangles: number, heightMm: number): Mesh {
  const rings = Math.round(Math.sqrt(triangles / 4))
  const wobble = (turn: number) => 1 + 0.04 * Math.cos(9 * turn)
  const soup: number[] = []
  const segments = rings * 2
  const point = (i: number, j: number): [number, number, number] => {
    const turn = (2 * Math.PI * j) / segments
    const t = i / rings
    const share = ((heightMm / 20) * t) % 1
    const radius = (14 + (share < 0.8 ? 18 * (share / 0.8) ** 2 : 18 * (1 - share) * 5)) * wobble(turn)
    return [radius * Math.cos(turn), radius * Math.sin(turn), heightMm * t]
  }
  for (let i = 0; i < rings; i++)
    for (let j = 0; j < segments; j++) {
      const [a, b, c, d] = [
        point(i, j),
        point(i, (j + 1) % segments),
        point(i + 1, (j + 1) % segments),
        point(i + 1, j),
      ]
      soup.push(...a, ...b, ...c, ...a, ...c, ...d)
    }
  const caps: [number, number][] = [
    [0, 0],
    [rings, heightMm],
  ]
  for (const [i, z] of caps)
    for (let j = 0; j < segments; j++) {
      const [a, b] = [point(i, j), point(i, (j + 1) % segments)]
      soup.push(...(i === 0 ? [...b, ...a] : [...a, ...b]), 0, 0, z)
    }
  return poseMesh(weldTriangles(Float32Array.from(soup)), UPRIGHT)
}

/** The same mesh in the solid engine. */
export function solidOf(solids: SolidEngine, { positionsMm, corners }: Mesh) {
  return new solids.Manifold(
    new solids.Mesh({ numProp: 3, vertProperties: Float32Array.from(positionsMm), triVerts: corners }),
  )
}
