import type { Checkpoint, Layer } from '../slice'
import { boundsOf, EMPTY_REGION, isEmptyRegion, joinPieces, regionAreaMm2, regionContains, splitPieces, type Bounds2, type PolygonEngine, type Region } from '../polygon'
import { OVERHANG_SLACK_MM, SMALLEST_PATCH_MM2 } from '../tolerances'
import { radians } from '../units'

/** A patch of underside: pieces of neighbouring layers that hang past the limit and belong together. */
export type Patch = {
  readonly id: number
  /** Layer whose underside hangs -> the hanging step of that layer. Ascending. */
  readonly steps: ReadonlyMap<number, Region>
  /** Sum over its layers. */
  readonly areaMm2: number
  readonly lowestMm: number
  readonly highestMm: number
  readonly kind: 'flat' | 'sloped'
}

/** A piece of a layer with nothing at all under it. */
export type Island = { readonly layerIndex: number; readonly zMm: number; readonly areaMm2: number; readonly atMm: readonly [number, number]; readonly region: Region }

export type Overhangs = {
  readonly patches: readonly Patch[]
  readonly islands: readonly Island[]
  /** Per layer: everything of it that needs holding (empty regions where nothing does). */
  readonly hold: readonly Region[]
  /** How far a layer may step out beyond the one below, for full layers. */
  readonly stepLimitMm: number
}

export type OverhangOptions = { readonly freeAngleDeg: number; readonly lineWidthMm: number }

/**
 * Finds what needs holding: U[i] = L[i] - grow(L[i-1], dz * tan(freeAngle)), dz from middle to middle of the two layers.
 *
 * A slope just past the limit leaves only a hair of U on each layer; what has to be held is the whole step it belongs to, so each
 * hair is widened to the step of L[i] over L[i-1] around it. Patches that vanish when half a line is taken off are dropped, unless
 * they hold an island.
 * Source: right triangle; step = layer height * tan(angle from vertical).
 */
export async function findOverhangs(layers: readonly Layer[], engine: PolygonEngine, options: OverhangOptions, checkpoint?: Checkpoint): Promise<Overhangs> {
  const tan = Math.tan(radians(options.freeAngleDeg))
  const pieces: Piece[] = []
  const islands: Island[] = []
  for (let i = 1; i < layers.length; i++) {
    if (checkpoint && i % 8 === 0) await checkpoint(i, layers.length)
    const layer = layers[i]
    const below = layers[i - 1]
    if (layer.region === below.region || isEmptyRegion(layer.region)) continue
    const found = islandsOf(layer, below.region, engine)
    islands.push(...found)
    const dz = (layer.topMm + layer.bottomMm - below.topMm - below.bottomMm) / 2
    const reach = dz * tan + OVERHANG_SLACK_MM
    const hanging = engine.minusGrown(layer.region, below.region, reach)
    if (isEmptyRegion(hanging) && found.length === 0) continue
    const step = engine.minus(layer.region, below.region)
    const seeds = engine.union(hanging, ...found.map((island) => island.region))
    const held = engine.commonGrown(step, seeds, reach, 0.01)
    for (const region of splitPieces(held)) {
      const areaMm2 = regionAreaMm2(region)
      const island = found.some((one) => touches(one.region, region))
      if (areaMm2 >= SMALLEST_PATCH_MM2 || island) pieces.push({ layer, region, areaMm2, island, bounds: boundsOf(region.xyMm) })
    }
  }
  const patches = gather(pieces, options.lineWidthMm, engine)
  const hold: Region[] = new Array<Region>(layers.length).fill(EMPTY_REGION)
  const perLayer = new Map<number, Region[]>()
  for (const patch of patches) for (const [index, region] of patch.steps) perLayer.set(index, [...(perLayer.get(index) ?? []), region])
  for (const [index, regions] of perLayer) hold[index] = joinPieces(regions)
  const full = layers.length > 2 ? layers[2].topMm - layers[2].bottomMm : layers[0].topMm
  return { patches, islands, hold, stepLimitMm: full * tan }
}

/** Pieces of a layer that share no area with the layer below. */
function islandsOf(layer: Layer, below: Region, engine: PolygonEngine): Island[] {
  const found: Island[] = []
  for (const piece of splitPieces(layer.region)) {
    if (cornerInside(piece, below) || cornerInside(below, piece)) continue
    if (regionAreaMm2(engine.common(piece, below)) > SMALLEST_PATCH_MM2) continue
    found.push({ layerIndex: layer.index, zMm: layer.bottomMm, areaMm2: regionAreaMm2(piece), atMm: [piece.xyMm[0], piece.xyMm[1]], region: piece })
  }
  return found
}

/** Quick and exact "these share an area": some corner of one lies in the other. Most pieces are settled at their first corner. */
function cornerInside(piece: Region, below: Region): boolean {
  if (isEmptyRegion(below)) return false
  const points = piece.xyMm.length / 2
  const stride = Math.max(1, Math.floor(points / 16))
  for (let p = 0; p < points; p += stride) if (regionContains(below, piece.xyMm[2 * p], piece.xyMm[2 * p + 1])) return true
  return false
}

type Piece = { readonly layer: Layer; readonly region: Region; readonly areaMm2: number; readonly island: boolean; readonly bounds: Bounds2 }

/** Joins pieces of neighbouring layers that touch into patches, and drops slivers. */
function gather(pieces: readonly Piece[], lineWidthMm: number, engine: PolygonEngine): Patch[] {
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
  pieces.forEach((piece, i) => groups.set(root(i), [...(groups.get(root(i)) ?? []), piece]))
  const patches: Patch[] = []
  for (const group of groups.values()) {
    const steps = new Map<number, Region>()
    for (const piece of group) steps.set(piece.layer.index, steps.has(piece.layer.index) ? joinPieces([steps.get(piece.layer.index)!, piece.region]) : piece.region)
    const areaMm2 = group.reduce((sum, piece) => sum + piece.areaMm2, 0)
    if (!group.some((piece) => piece.island) && isSliver(group, areaMm2, lineWidthMm, engine)) continue
    const heights = group.map((piece) => piece.layer.bottomMm)
    const flat = group.reduce((largest, piece) => Math.max(largest, piece.areaMm2), 0) > 0.7 * areaMm2
    patches.push({
      id: patches.length,
      steps: new Map([...steps].sort(([a], [b]) => a - b)),
      areaMm2,
      lowestMm: Math.min(...heights),
      highestMm: Math.max(...heights),
      kind: flat ? 'flat' : 'sloped',
    })
  }
  return patches.sort((a, b) => a.lowestMm - b.lowestMm).map((patch, id) => ({ ...patch, id }))
}

/** Whether a patch vanishes when half a line is taken off: nothing that a nozzle could need holding for. */
function isSliver(group: readonly Piece[], areaMm2: number, lineWidthMm: number, engine: PolygonEngine): boolean {
  const box = group.reduce(
    (all, { bounds: b }) => ({ minX: Math.min(all.minX, b.minX), minY: Math.min(all.minY, b.minY), maxX: Math.max(all.maxX, b.maxX), maxY: Math.max(all.maxY, b.maxY) }),
    group[0].bounds,
  )
  // A ring of half a line's width has an area of at most pi / 2 times its diameter times the line; what has more is no sliver.
  if (areaMm2 > 2 * lineWidthMm * Math.hypot(box.maxX - box.minX, box.maxY - box.minY)) return false
  const seen = engine.union(...group.map((piece) => piece.region))
  // The steps of a slope meet along their edges; closing over a hair's breadth lets them count as one face.
  return isEmptyRegion(engine.grow(engine.grow(seen, 0.01, 'miter'), -lineWidthMm / 4 - 0.01, 'miter'))
}

/** Whether two pieces come within a distance of each other, judged at the corners of the smaller one against the other's sides. */
function near(a: Piece, b: Piece, distanceMm: number): boolean {
  if (a.bounds.minX > b.bounds.maxX + distanceMm || b.bounds.minX > a.bounds.maxX + distanceMm) return false
  if (a.bounds.minY > b.bounds.maxY + distanceMm || b.bounds.minY > a.bounds.maxY + distanceMm) return false
  const [few, many] = a.region.xyMm.length < b.region.xyMm.length ? [a.region, b.region] : [b.region, a.region]
  const stride = Math.max(1, Math.floor(few.xyMm.length / 2 / 48))
  for (let p = 0; p < few.xyMm.length / 2; p += stride) {
    const x = few.xyMm[2 * p]
    const y = few.xyMm[2 * p + 1]
    if (distanceToSides(many, x, y) <= distanceMm || regionContains(many, x, y)) return true
  }
  return false
}

function distanceToSides(region: Region, x: number, y: number): number {
  let best = Infinity
  const { xyMm, starts } = region
  for (let r = 0; r + 1 < starts.length; r++) {
    let q = starts[r + 1] - 1
    for (let p = starts[r]; p < starts[r + 1]; q = p++) {
      const ax = xyMm[2 * q]
      const ay = xyMm[2 * q + 1]
      const ux = xyMm[2 * p] - ax
      const uy = xyMm[2 * p + 1] - ay
      const t = Math.max(0, Math.min(1, ((x - ax) * ux + (y - ay) * uy) / (ux * ux + uy * uy || 1)))
      const d = (ax + t * ux - x) ** 2 + (ay + t * uy - y) ** 2
      if (d < best) best = d
    }
  }
  return Math.sqrt(best)
}

const touches = (island: Region, piece: Region) => regionContains(island, piece.xyMm[0], piece.xyMm[1]) || distanceToSides(island, piece.xyMm[0], piece.xyMm[1]) < 0.01
