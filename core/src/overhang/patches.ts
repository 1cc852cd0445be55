import type { Layer } from '../slice'
import {
  isEmptyRegion,
  joinPieces,
  nearSides,
  regionContains,
  regionPerimeterMm,
  type Bounds2,
  type PolygonEngine,
  type Region,
} from '../polygon'
import { degrees } from '../units'
import { accessTo } from './access'
import type { PatchKind } from './patchKinds'

/** How a tool gets to it from the side, just below: from many sides, from few, or not at all. */
export type Access = 'open' | 'narrow' | 'closed'

/** A patch of underside: pieces of neighbouring layers that hang past the limit and belong together. */
export type Patch = {
  readonly id: number
  /** Layer whose underside hangs -> the hanging step of that layer. Ascending. */
  readonly steps: ReadonlyMap<number, Region>
  /** Sum over its layers. */
  readonly areaMm2: number
  readonly lowestMm: number
  readonly highestMm: number
  readonly kind: PatchKind
  readonly access: Access
}

/** One hanging piece of one layer. */
export type Piece = {
  readonly layer: Layer
  readonly region: Region
  readonly areaMm2: number
  readonly island: boolean
  /** Asked for by a hold zone, however small. */
  readonly wanted: boolean
  readonly bounds: Bounds2
}

/** Joins pieces of neighbouring layers that touch into patches, and drops slivers. */
export function gatherPatches(
  pieces: readonly Piece[],
  layers: readonly Layer[],
  lineWidthMm: number,
  engine: PolygonEngine,
): Patch[] {
  const parent = pieces.map((_, i) => i)
  const root = (i: number): number => (parent[i] === i ? i : (parent[i] = root(parent[i])))
  let from = 0
  for (let i = 0; i < pieces.length; i++) {
    while (pieces[from].layer.index < pieces[i].layer.index - 1) from++
    for (let j = from; j < i; j++) {
      if (pieces[j].layer.index === pieces[i].layer.index || root(i) === root(j)) continue
      if (near(pieces[i], pieces[j], lineWidthMm)) parent[root(i)] = root(j)
    }
  }
  const groups = new Map<number, Piece[]>()
  pieces.forEach((piece, i) => {
    const group = groups.get(root(i))
    if (group) group.push(piece)
    else groups.set(root(i), [piece])
  })
  const patches: Patch[] = []
  for (const group of groups.values()) {
    const areaMm2 = group.reduce((sum, piece) => sum + piece.areaMm2, 0)
    if (
      !group.some(({ island, wanted }) => island || wanted) &&
      isSliver(group, areaMm2, lineWidthMm, engine)
    )
      continue
    const regions = new Map<number, Region[]>()
    for (const { layer, region } of group)
      regions.set(layer.index, [...(regions.get(layer.index) ?? []), region])
    const steps = new Map(
      [...regions]
        .sort(([a], [b]) => a - b)
        .map(([index, all]) => [index, all.length === 1 ? all[0] : joinPieces(all)]),
    )
    const heights = group.map((piece) => piece.layer.bottomMm)
    patches.push({
      id: patches.length,
      steps,
      areaMm2,
      lowestMm: Math.min(...heights),
      highestMm: Math.max(...heights),
      kind: kindOf(group, areaMm2, lineWidthMm),
      access: accessTo([...steps.keys()][0], [...steps.values()][0], layers),
    })
  }
  return patches.sort((a, b) => a.lowestMm - b.lowestMm).map((patch, id) => ({ ...patch, id }))
}

/** A tip is no wider than this many lines. */
const TIP_LINES = 6
/** A slope whose steepness changes by more than this between its lower and its upper third is rounded. */
const ROUNDED_DEG = 8

function kindOf(group: readonly Piece[], areaMm2: number, lineWidthMm: number): PatchKind {
  const largest = group.reduce((most, piece) => Math.max(most, piece.areaMm2), 0)
  if (group.some(({ island }) => island) && areaMm2 < (TIP_LINES * lineWidthMm) ** 2) return 'tip'
  if (largest > 0.7 * areaMm2) return 'flat'
  const ordered = [...group].sort((a, b) => a.layer.index - b.layer.index)
  const third = Math.ceil(ordered.length / 3)
  return Math.abs(leanOf(ordered.slice(0, third)) - leanOf(ordered.slice(-third))) > ROUNDED_DEG
    ? 'rounded'
    : 'sloped'
}

/** Mean lean of some steps, in degrees from vertical: a step's width is its area over half its outline. */
function leanOf(pieces: readonly Piece[]): number {
  let [out, up] = [0, 0]
  for (const { region, areaMm2, layer } of pieces) {
    out += (2 * areaMm2) / regionPerimeterMm(region)
    up += layer.topMm - layer.bottomMm
  }
  return degrees(Math.atan2(out, up))
}

/** Whether a patch vanishes when half a line is taken off: nothing that a nozzle could need holding for. */
function isSliver(
  group: readonly Piece[],
  areaMm2: number,
  lineWidthMm: number,
  engine: PolygonEngine,
): boolean {
  const box = group.reduce(
    (all, { bounds: b }) => ({
      minX: Math.min(all.minX, b.minX),
      minY: Math.min(all.minY, b.minY),
      maxX: Math.max(all.maxX, b.maxX),
      maxY: Math.max(all.maxY, b.maxY),
    }),
    group[0].bounds,
  )
  // A ring of half a line's width has an area of at most pi / 2 times its diameter times the line; what has
  // more is no sliver.
  if (areaMm2 > 2 * lineWidthMm * Math.hypot(box.maxX - box.minX, box.maxY - box.minY)) return false
  const seen = engine.union(...group.map((piece) => piece.region))
  // The steps of a slope meet along their edges; closing over a hair's breadth lets them count as one face.
  return isEmptyRegion(engine.grow(engine.grow(seen, 0.01, 'miter'), -lineWidthMm / 4 - 0.01, 'miter'))
}

/**
 * Whether two pieces come within a distance of each other, judged at the corners of the smaller one against
 * the other's sides.
 */
function near(a: Piece, b: Piece, distanceMm: number): boolean {
  if (a.bounds.minX > b.bounds.maxX + distanceMm || b.bounds.minX > a.bounds.maxX + distanceMm) return false
  if (a.bounds.minY > b.bounds.maxY + distanceMm || b.bounds.minY > a.bounds.maxY + distanceMm) return false
  const [few, many] =
    a.region.xyMm.length < b.region.xyMm.length ? [a.region, b.region] : [b.region, a.region]
  const stride = Math.max(1, Math.floor(few.xyMm.length / 2 / 48))
  for (let p = 0; p < few.xyMm.length / 2; p += stride) {
    const x = few.xyMm[2 * p]
    const y = few.xyMm[2 * p + 1]
    if (nearSides(many, x, y, distanceMm) || regionContains(many, x, y)) return true
  }
  return false
}
