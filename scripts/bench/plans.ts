import { polygonEngine, solidEngine, workBeside } from '@tender/core/node'
import { createPlanner } from '@tender/core/plan'
import { DEFAULT_PLAN } from '@tender/core/decide'
import { sliceMesh } from '@tender/core/slice'
import { best } from './best'
import { rawLayers } from './raw'
import { ribbedBowls, solidOf } from './shapes'

const AIM = 4
const OPTIONS = { layerHeightMm: 0.2, firstLayerHeightMm: 0.2 }

/** Slicing and whole plans, with triangles and layers growing. */
export async function benchPlans(): Promise<void> {
  const [solids, polygons] = [await solidEngine(), await polygonEngine()]
  const rows: Record<string, string | number>[] = []
  const beside = workBeside()
  for (const [triangles, heightMm] of [
    [20_000, 40],
    [40_000, 80],
    [80_000, 160],
    [300_000, 60],
  ] as const) {
    const mesh = ribbedBowls(triangles, heightMm)
    const { layers } = await sliceMesh(mesh, polygons, OPTIONS)
    const ours = await best(() => sliceMesh(mesh, polygons, OPTIONS))
    const solid = solidOf(solids, mesh)
    const theirs = await best(() => {
      for (const { bottomMm, topMm } of layers) solid.slice((bottomMm + topMm) / 2).delete()
    })
    solid.delete()
    const raw = await best(() => rawLayers(layers))
    const document = { ...DEFAULT_PLAN, decisions: { ...DEFAULT_PLAN.decisions, ...OPTIONS } }
    const plan = await best(() => createPlanner(polygons).plan('bowl', mesh, document))
    const both = await best(() => createPlanner(polygons, beside.trace).plan('bowl', mesh, document))
    const planner = createPlanner(polygons)
    await planner.plan('bowl', mesh, DEFAULT_PLAN)
    let gap = 0.2
    const step = await best(() =>
      planner.plan('bowl', mesh, {
        ...DEFAULT_PLAN,
        decisions: { ...DEFAULT_PLAN.decisions, upperGapMm: (gap += 0.01) },
      }),
    )
    rows.push({
      triangles: mesh.corners.length / 3,
      layers: layers.length,
      'slice ms': Math.round(ours),
      'slice / manifold-3d': (ours / theirs).toFixed(2),
      'plan ms': Math.round(plan),
      'plan / raw clipper2': ofAim(plan / raw),
      'on both cores': ofAim(both / raw),
      'plan us per layer': Math.round((plan * 1000) / layers.length),
      'gap step / plan': (step / plan).toFixed(3),
    })
  }
  console.table(rows)
  console.log(
    `slice / manifold-3d: all layers of the same closed mesh; wanted at most 1. plan / raw clipper2: whole plan against one grow and one difference a layer; wanted at most ${AIM}, on one core and on both (parts whose layers have fewer than 100 000 points stay on one).`,
  )
}

const ofAim = (ratio: number): string => `${ratio.toFixed(1)}${ratio > AIM ? ', missed' : ''}`
