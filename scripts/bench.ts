// npm run bench: what our stages cost against the raw cost of the libraries under them, as ratios within one run.
import createClipper from 'clipper2-wasm/dist/es/clipper2z.js'
import type { MainModule, Paths64 } from 'clipper2-wasm/dist/clipper2z'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { polygonEngine, solidEngine } from '@tender/core/node'
import { poseMesh, UPRIGHT, weldTriangles, type Mesh, type SolidEngine } from '@tender/core/mesh'
import { createPlanner, DEFAULT_PLAN } from '@tender/core/plan'
import { ringCount, ringOf, type PolygonEngine, type Region } from '@tender/core/polygon'
import { sliceMesh, type Layer } from '@tender/core/slice'

const LAYER_MM = 0.2
const REPEATS = 3
const OPTIONS = { layerHeightMm: LAYER_MM, firstLayerHeightMm: LAYER_MM }

/** Shortest of a few runs: noise only ever adds. */
async function best(work: () => unknown): Promise<number> {
  let shortest = Infinity
  for (let i = 0; i < REPEATS; i++) {
    const start = performance.now()
    await work()
    shortest = Math.min(shortest, performance.now() - start)
  }
  return shortest
}

/** A stack of ribbed bowls: overhangs past any limit every 20 mm, and no layer equal to the next. Closed. */
function ribbedBowls(triangles: number, heightMm: number): Mesh {
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
      const [a, b, c, d] = [point(i, j), point(i, (j + 1) % segments), point(i + 1, (j + 1) % segments), point(i + 1, j)]
      soup.push(...a, ...b, ...c, ...a, ...c, ...d)
    }
  const caps: [number, number][] = [[0, 0], [rings, heightMm]] // prettier-ignore
  for (const [i, z] of caps)
    for (let j = 0; j < segments; j++) {
      const [a, b] = [point(i, j), point(i, (j + 1) % segments)]
      soup.push(...(i === 0 ? [...b, ...a] : [...a, ...b]), 0, 0, z)
    }
  return poseMesh(weldTriangles(Float32Array.from(soup)), UPRIGHT)
}

function solidOf(solids: SolidEngine, { positionsMm, corners }: Mesh) {
  return new solids.Manifold(new solids.Mesh({ numProp: 3, vertProperties: Float32Array.from(positionsMm), triVerts: corners }))
}

/** One grow and one difference a layer on the same outlines, straight in the library, loading and freeing included. */
function rawLayers(clipper: MainModule, layers: readonly Layer[]): void {
  const load = (region: Region): Paths64 => {
    const paths = new clipper.Paths64()
    for (let r = 0; r < ringCount(region); r++) {
      const ring = ringOf(region, r)
      const path = new clipper.Path64()
      const numbers = new BigInt64Array((ring.length / 2) * 3)
      for (let p = 0; p < ring.length / 2; p++) {
        numbers[3 * p] = BigInt(Math.round(ring[2 * p] * 1e4))
        numbers[3 * p + 1] = BigInt(Math.round(ring[2 * p + 1] * 1e4))
      }
      path.assign(numbers)
      paths.push_back(path)
      path.delete()
    }
    return paths
  }
  for (let i = 1; i < layers.length; i++) {
    const [own, below] = [load(layers[i].region), load(layers[i - 1].region)]
    const grown = clipper.InflatePaths64(below, 2500, clipper.JoinType.Round, clipper.EndType.Polygon, 2, 10)
    const left = clipper.Difference64(own, grown, clipper.FillRule.NonZero)
    for (const paths of [own, below, grown, left]) paths.delete()
  }
}

const require = createRequire(import.meta.url)
const solids = await solidEngine()
const polygons: PolygonEngine = await polygonEngine()
const clipper = (await createClipper({ wasmBinary: readFileSync(require.resolve('clipper2-wasm/dist/es/clipper2z.wasm')) })) as MainModule

const rows: Record<string, string | number>[] = []
for (const [triangles, heightMm] of [
  [20_000, 40],
  [40_000, 80],
  [80_000, 160],
  [300_000, 60],
] as const) {
  // prettier-ignore
  const mesh = ribbedBowls(triangles, heightMm)
  const { layers } = await sliceMesh(mesh, polygons, OPTIONS)
  const ours = await best(() => sliceMesh(mesh, polygons, OPTIONS))
  const solid = solidOf(solids, mesh)
  const theirs = await best(() => {
    for (const { bottomMm, topMm } of layers) solid.slice((bottomMm + topMm) / 2).delete()
  })
  solid.delete()
  const raw = await best(() => rawLayers(clipper, layers))
  const plan = await best(() => createPlanner(polygons).plan('bowl', mesh, { ...DEFAULT_PLAN, decisions: { ...DEFAULT_PLAN.decisions, ...OPTIONS } }))
  const planner = createPlanner(polygons)
  await planner.plan('bowl', mesh, DEFAULT_PLAN)
  let gap = 0.2
  const step = await best(() => planner.plan('bowl', mesh, { ...DEFAULT_PLAN, decisions: { ...DEFAULT_PLAN.decisions, upperGapMm: (gap += 0.01) } }))
  rows.push({
    triangles: mesh.corners.length / 3,
    layers: layers.length,
    'slice ms': Math.round(ours),
    'slice / manifold-3d': (ours / theirs).toFixed(2),
    'plan ms': Math.round(plan),
    'plan / raw clipper2': (plan / raw).toFixed(2),
    'plan us per layer': Math.round((plan * 1000) / layers.length),
    'gap step / plan': (step / plan).toFixed(3),
  })
}
console.table(rows)
console.log('slice / manifold-3d: all layers of the same closed mesh; wanted at most 1. plan / raw clipper2: whole plan against one grow and one difference a layer; wanted under 4.')
