import {
  isEmptyRegion,
  regionAreaMm2,
  regionContains,
  splitPieces,
  type PolygonEngine,
  type Region,
} from '../polygon'
import type { Layer } from '../slice'
import { SMALLEST_PATCH_MM2 } from '../tolerances'
import type { ZoneLayers } from './zones'

/** A piece of a layer with nothing at all under it. */
export type Island = {
  readonly layerIndex: number
  readonly zMm: number
  readonly areaMm2: number
  readonly atMm: readonly [number, number]
  readonly region: Region
  /** Name of the keep-off zone that leaves it in mid-air. */
  readonly keptOffBy: string | null
}

/** Pieces of a layer that share no area with the layer below. */
export function islandsOf(layer: Layer, below: Region, engine: PolygonEngine): Island[] {
  const found: Island[] = []
  for (const piece of splitPieces(layer.region)) {
    if (
      cornerInside(piece, below, 1) ||
      cornerInside(below, piece, CORNERS) ||
      cornerInside(piece, below, CORNERS)
    )
      continue
    if (regionAreaMm2(engine.common(piece, below)) > SMALLEST_PATCH_MM2) continue
    found.push({
      layerIndex: layer.index,
      zMm: layer.bottomMm,
      areaMm2: regionAreaMm2(piece),
      atMm: [piece.xyMm[0], piece.xyMm[1]],
      region: piece,
      keptOffBy: null,
    })
  }
  return found
}

/** The island with the name of the keep-off zone that covers most of it, if one does. */
export function withKeeper(island: Island, zones: readonly ZoneLayers[], engine: PolygonEngine): Island {
  const keeper = zones.findLast(
    ({ zone, regions }) =>
      zone.kind === 'keepOff' &&
      regionAreaMm2(engine.common(island.region, regions[island.layerIndex])) > island.areaMm2 / 2,
  )
  return keeper ? { ...island, keptOffBy: keeper.zone.name } : island
}

const CORNERS = 16

/**
 * Quick and exact "these share an area": some corner of one lies in the other. Most pieces are settled at
 * their first corner.
 */
function cornerInside(piece: Region, other: Region, tried: number): boolean {
  if (isEmptyRegion(other)) return false
  const points = piece.xyMm.length / 2
  const stride = Math.max(1, Math.floor(points / tried))
  for (let p = 0; p < points; p += stride)
    if (regionContains(other, piece.xyMm[2 * p], piece.xyMm[2 * p + 1])) return true
  return false
}
