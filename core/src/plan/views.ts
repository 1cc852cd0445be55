import { boundsOf, crossingsOf, headingOf, regionFromRings, type Region } from '../polygon'
import type { ToolPaths } from '../path'
import type { SupportRole } from '../stand'
import type { Tower } from '../print'
import type { PlanGeometry } from './planResult'

/** Filled spans along a cut: numbers come in fours, from, to, bottom, top (mm). */
export type Section = {
  readonly part: Float64Array
  readonly stand: Float64Array
  readonly interface: Float64Array
  readonly hanging: Float64Array
  readonly tower: Float64Array
}

/**
 * Everything an upright cut meets. The cut runs along a direction, in degrees from +x, beside the middle by
 * `at` to its left; spans are measured along it from the foot of the perpendicular through the middle.
 */
export function sectionOf(
  geometry: Pick<PlanGeometry, 'layers' | 'hold' | 'passes' | 'towerLaid'>,
  directionDeg: number,
  at: number,
): Section {
  const out = {
    part: [] as number[],
    stand: [] as number[],
    interface: [] as number[],
    hanging: [] as number[],
    tower: [] as number[],
  }
  const heading = headingOf(directionDeg)
  let spansOf: Region | null = null
  let spans: number[] = []
  const cut = (region: Region) => {
    if (region !== spansOf) {
      spansOf = region
      spans = crossingsOf(region, heading, at)
    }
    return spans
  }
  for (const layer of geometry.layers) pushSpans(out.part, cut(layer.region), layer.bottomMm, layer.topMm)
  geometry.hold.forEach((region, i) =>
    pushSpans(
      out.hanging,
      crossingsOf(region, heading, at),
      geometry.layers[i].bottomMm,
      geometry.layers[i].topMm,
    ),
  )
  for (const pass of geometry.passes)
    pushSpans(
      pass.role === 'interface' ? out.interface : out.stand,
      cut(pass.region),
      pass.bottomMm,
      pass.topMm,
    )
  const tower = geometry.towerLaid?.tower
  if (tower) pushSpans(out.tower, cut(footprintOf(tower)), 0, tower.topMm)
  return {
    tower: Float64Array.from(out.tower),
    part: Float64Array.from(out.part),
    stand: Float64Array.from(out.stand),
    interface: Float64Array.from(out.interface),
    hanging: Float64Array.from(out.hanging),
  }
}

function pushSpans(into: number[], spans: readonly number[], bottomMm: number, topMm: number): void {
  for (let i = 0; i + 1 < spans.length; i += 2) into.push(spans[i], spans[i + 1], bottomMm, topMm)
}

/** Where a cut along a direction can meet anything: from and to along it. */
export function reachAlong(
  { minX, minY, maxX, maxY }: { minX: number; minY: number; maxX: number; maxY: number },
  directionDeg: number,
): [number, number] {
  const cos = Math.cos((directionDeg * Math.PI) / 180)
  const sin = Math.sin((directionDeg * Math.PI) / 180)
  const along = [minX, maxX].flatMap((x) => [minY, maxY].map((y) => x * cos + y * sin))
  return [Math.min(...along), Math.max(...along)]
}

/** What a prime tower stands on. */
export const footprintOf = ({ atMm: [x, y], sideMm }: Tower): Region => {
  const half = sideMm / 2
  return regionFromRings([[x - half, y - half, x + half, y - half, x + half, y + half, x - half, y + half]])
}

/** What lies at a height, for the layer drawing. */
export type LayerView = {
  readonly index: number
  readonly bottomMm: number
  readonly topMm: number
  readonly part: Region
  readonly below: Region | null
  readonly hanging: Region
  readonly supports: readonly { readonly role: 'tower' | SupportRole; readonly region: Region }[]
  readonly paths: readonly ({ readonly role: 'part' | 'tower' | SupportRole } & ToolPaths)[]
}

/** The part's layer that covers a height, with the supports that share some of that height. */
export function layerViewAt(geometry: PlanGeometry, zMm: number): LayerView {
  const { layers, passes, towerLaid } = geometry
  let index = layers.findIndex((layer) => zMm <= layer.topMm + 1e-6)
  if (index < 0) index = layers.length - 1
  const layer = layers[index]
  const near = passes
    .map((pass, at) => ({ pass, at }))
    .filter(({ pass }) => pass.topMm > layer.bottomMm + 1e-6 && pass.bottomMm < layer.topMm - 1e-6)
  const towerHere = (towerLaid?.sweeps ?? []).filter(
    ({ bottomMm, topMm }) => topMm > layer.bottomMm + 1e-6 && bottomMm < layer.topMm - 1e-6,
  )
  return {
    index,
    bottomMm: layer.bottomMm,
    topMm: layer.topMm,
    part: layer.region,
    below: index > 0 ? layers[index - 1].region : null,
    hanging: geometry.hold[index],
    supports: [
      ...near.map(({ pass }) => ({ role: pass.role, region: pass.region })),
      ...(towerHere.length > 0 ? [{ role: 'tower' as const, region: footprintOf(towerLaid!.tower) }] : []),
    ],
    paths: [
      { role: 'part', ...geometry.partPaths[index] },
      ...near.map(({ pass, at }) => ({ role: pass.role, ...geometry.supportPaths[at] })),
      ...towerHere.map(({ paths }) => ({ role: 'tower' as const, ...paths })),
    ],
  }
}

/** Box around everything a plan prints, seen from above. */
export function planBounds(geometry: Pick<PlanGeometry, 'layers' | 'passes' | 'towerLaid'>): {
  minX: number
  minY: number
  maxX: number
  maxY: number
} {
  const all = [
    ...geometry.layers.map((layer) => layer.region),
    ...geometry.passes.map((pass) => pass.region),
    ...(geometry.towerLaid ? [footprintOf(geometry.towerLaid.tower)] : []),
  ]
  let bounds = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity }
  for (const region of all) {
    const b = boundsOf(region.xyMm)
    bounds = {
      minX: Math.min(bounds.minX, b.minX),
      minY: Math.min(bounds.minY, b.minY),
      maxX: Math.max(bounds.maxX, b.maxX),
      maxY: Math.max(bounds.maxY, b.maxY),
    }
  }
  return bounds
}
