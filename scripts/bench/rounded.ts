import { meshOfSolid, poseMesh, UPRIGHT, type Mesh, type SolidEngine } from '@tender/core/mesh'

/**
 * Rounded shapes of our own making, 110 to 150 mm tall: limbs, thin horns and crossing rods touch something
 * on every layer.
 */
type Point = readonly [number, number, number]
/** A limb: a rod from a to b that goes from one radius to another. */
type Limb = readonly [a: Point, b: Point, ra: number, rb: number]

/** Distance to a tapering rod, positive inside. */
function inLimb([x, y, z]: Point, [a, b, ra, rb]: Limb): number {
  const [ux, uy, uz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
  const [px, py, pz] = [x - a[0], y - a[1], z - a[2]]
  const t = Math.max(0, Math.min(1, (px * ux + py * uy + pz * uz) / (ux * ux + uy * uy + uz * uz || 1)))
  return ra + (rb - ra) * t - Math.hypot(px - ux * t, py - uy * t, pz - uz * t)
}

/** Softly joined: where limbs meet there is flesh. Source: log-sum-exp. */
const joined = (limbs: readonly Limb[], softMm: number) => (p: Point) => {
  let most = -Infinity
  const all = limbs.map((limb) => inLimb(p, limb))
  for (const d of all) if (d > most) most = d
  let sum = 0
  for (const d of all) sum += Math.exp((d - most) / softMm)
  return most + softMm * Math.log(sum)
}

const bent = (at: (t: number) => Point, pieces: number, from: number, to: number): Limb[] =>
  Array.from({ length: pieces }, (_, i) => {
    const [s, t] = [i / pieces, (i + 1) / pieces]
    return [at(s), at(t), from + (to - from) * s, from + (to - from) * t] as const
  })

/** A standing figure: a body, arms held out, a head with ears. */
const FIGURE: readonly Limb[] = [
  [[0, 0, 45], [0, 0, 85], 19, 15],
  [[-9, 0, 5], [-8, 0, 45], 9, 11],
  [[9, 0, 5], [8, 0, 45], 9, 11],
  [[-14, 0, 80], [-46, 10, 88], 6.5, 5],
  [[14, 0, 80], [44, -14, 66], 6.5, 5],
  [[0, -2, 108], [0, 0, 112], 16, 15],
  [[-10, 0, 122], [-19, 0, 141], 4.5, 3],
  [[10, 0, 122], [19, 0, 141], 4.5, 3],
  [[0, -17, 106], [0, -22, 105], 4, 3],
  [[0, 12, 52], [0, 34, 40], 7, 4],
]

/** An animal on four legs with thin horns and a tail. */
const ANIMAL: readonly Limb[] = [
  [[-30, 0, 58], [28, 0, 62], 19, 17],
  ...[-24, 22].flatMap((x) => [-11, 11].map((y): Limb => [[x, y, 4], [x, 0.6 * y, 55], 5, 9])),
  [[30, 0, 66], [47, 0, 92], 11, 9],
  [[47, 0, 92], [63, 0, 86], 9.5, 6],
  ...bent((t) => [46 - 10 * t, 6 + 16 * t, 98 + 34 * t * (1.4 - t)], 5, 2.6, 1),
  ...bent((t) => [46 - 10 * t, -6 - 16 * t, 98 + 34 * t * (1.4 - t)], 5, 2.6, 1),
  ...bent((t) => [-47 - 16 * t, 8 * Math.sin(4 * t), 66 - 34 * t], 5, 3.5, 1.8),
]

/** A heap of curved rods that cross one another. */
const HEAP: readonly Limb[] = Array.from({ length: 12 }, (_, k) => {
  const turn = (k * Math.PI * 2) / 12
  const lift = 6 + 9.5 * k
  return bent(
    (t) => [
      34 * (1 - 2 * t) * Math.cos(turn) - 10 * Math.sin(turn) * Math.sin(Math.PI * t),
      34 * (1 - 2 * t) * Math.sin(turn) + 10 * Math.cos(turn) * Math.sin(Math.PI * t),
      lift + 8 * Math.sin(Math.PI * t + k),
    ],
    6,
    5,
    4,
  )
}).flat()

export const ROUNDED = {
  figure: { limbs: FIGURE, softMm: 2, min: [-56, -34, -2], max: [56, 44, 148] },
  animal: { limbs: ANIMAL, softMm: 1.2, min: [-72, -40, -2], max: [74, 40, 136] },
  heap: { limbs: HEAP, softMm: 0.6, min: [-52, -52, -4], max: [52, 52, 128] },
} as const
export type RoundedName = keyof typeof ROUNDED

/**
 * More triangles than this are made by dividing those of a lighter one: asking for every cell of a finer grid
 * would take minutes.
 */
const MOST_BY_GRID = 60_000
const DIVIDED = 3

/** One of the shapes with about so many triangles. */
export function roundedShape(solids: SolidEngine, name: RoundedName, triangles: number): Mesh {
  const { limbs, softMm, min, max } = ROUNDED[name]
  const inside = joined(limbs, softMm)
  const make = (edgeMm: number) =>
    solids.Manifold.levelSet((p) => inside(p as unknown as Point), { min: [...min], max: [...max] }, edgeMm)
  const divided = triangles > MOST_BY_GRID
  const trial = make(4)
  // Triangles of a surface grow with the square of their fineness.
  const edgeMm = 4 * Math.sqrt(trial.numTri() / (divided ? triangles / DIVIDED ** 2 : triangles))
  trial.delete()
  const made = make(edgeMm)
  if (!divided) return poseMesh(meshOfSolid(made), UPRIGHT)
  const refined = made.refine(DIVIDED)
  made.delete()
  const mesh = meshOfSolid(refined)
  drawOnto(mesh.positionsMm, inside)
  return poseMesh(mesh, UPRIGHT)
}

/** Moves points onto the surface, along the way that leads there. Source: one step of Newton's method. */
function drawOnto(p: Float64Array, inside: (p: Point) => number): void {
  const h = 1e-4
  for (let v = 0; v < p.length; v += 3) {
    const at: Point = [p[v], p[v + 1], p[v + 2]]
    const d = inside(at)
    const g = [0, 1, 2].map(
      (axis) => (inside(at.map((x, i) => (i === axis ? x + h : x)) as unknown as Point) - d) / h,
    )
    const g2 = g[0] * g[0] + g[1] * g[1] + g[2] * g[2]
    if (g2 > 0.01) for (let axis = 0; axis < 3; axis++) p[v + axis] -= (d * g[axis]) / g2
  }
}
