import { polygonEngine, solidEngine } from '@tender/core/node'
import { openMesh, poseMesh, UPRIGHT, writeStl } from '@tender/core/mesh'
import { findOverhangs } from '@tender/core/overhang'
import { sliceMesh } from '@tender/core/slice'
import { best } from './best'
import { rawLayers } from './raw'
import { ribbedBowls, solidOf } from './shapes'

/** Load, slice, what needs holding: one and two million triangles, 400 layers. */
export async function benchLarge(): Promise<void> {
  const [solids, polygons] = [await solidEngine(), await polygonEngine()]
  const rows: Record<string, string | number>[] = []
  // The first run of anything pays for compiling it; what is measured comes after.
  const warm = await sliceMesh(ribbedBowls(100_000, 80), polygons, {
    layerHeightMm: 0.2,
    firstLayerHeightMm: 0.2,
  })
  await findOverhangs(warm.layers, polygons, { freeAngleDeg: 48, lineWidthMm: 0.45, freeSpanMm: 9 })
  rawLayers(warm.layers)
  for (const triangles of [250_000, 500_000, 1_000_000, 2_000_000]) {
    const made = ribbedBowls(triangles, 80)
    const bytes = writeStl(made)
    const load = await best(() => openMesh(bytes), 2)
    const mesh = poseMesh(openMesh(bytes).mesh, UPRIGHT)
    const options = { layerHeightMm: 0.2, firstLayerHeightMm: 0.2 }
    const { layers } = await sliceMesh(mesh, polygons, options)
    const slice = await best(() => sliceMesh(mesh, polygons, options), 2)
    const solid = solidOf(solids, made)
    const theirs = await best(() => {
      for (const { bottomMm, topMm } of layers) solid.slice((bottomMm + topMm) / 2).delete()
    }, 1)
    solid.delete()
    const raw = await best(() => rawLayers(layers), 2)
    const needs = await best(
      () => findOverhangs(layers, polygons, { freeAngleDeg: 48, lineWidthMm: 0.45, freeSpanMm: 9 }),
      2,
    )
    const sides = await best(
      () =>
        findOverhangs(layers, polygons, {
          freeAngleDeg: 48,
          sideAnglesDeg: [48, 49, 50, 51, 52, 51, 50, 49],
          lineWidthMm: 0.45,
          freeSpanMm: 9,
        }),
      1,
    )
    rows.push({
      triangles: mesh.corners.length / 3,
      layers: layers.length,
      'load ms': Math.round(load),
      'slice ms': Math.round(slice),
      'slice / manifold-3d': (slice / theirs).toFixed(2),
      'needs ms': Math.round(needs),
      'needs / raw clipper2': (needs / raw).toFixed(2),
      'by sides / raw': (sides / raw).toFixed(2),
      'us per triangle': (((load + slice + needs) * 1000) / triangles).toFixed(2),
      'memory MB': Math.round(process.memoryUsage().rss / 1e6),
    })
  }
  console.table(rows)
  console.log(
    'slice / manifold-3d: wanted at most 0.67. needs / raw clipper2: what needs holding on one core against one grow and one difference a layer; wanted under 2.',
  )
}
