import {
  BACKWARD_FRAME,
  EMPTY_REGION,
  joinPieces,
  regionAreaMm2,
  regionPerimeterMm,
  type PolygonEngine,
  type Region,
} from '../polygon'
import { OUTLINE_TOLERANCE_MM, SMALLEST_PATCH_MM2 } from '../tolerances'
import type { Slices } from './sliceMesh'

/** What of a layer lies in more than one shell. */
export type Overlap = { readonly layerIndex: number; readonly region: Region }

/**
 * What of a layer lies in more than one shell; empty when nothing does. Outlines as they come from the mesh
 * count every shell, clean ones everything once; only where the areas differ is there anything to find. Under
 * a frame that takes one from every count, what still counts is covered twice.
 */
export function overlapOf(raw: Region, clean: Region, engine: PolygonEngine): Region {
  const more = regionAreaMm2(raw) - regionAreaMm2(clean)
  if (
    more < SMALLEST_PATCH_MM2 ||
    more < SMALLEST_PATCH_MM2 + 2 * OUTLINE_TOLERANCE_MM * regionPerimeterMm(clean)
  )
    return EMPTY_REGION
  const twice = engine.clean(joinPieces([raw, BACKWARD_FRAME]), 'positive')
  return regionAreaMm2(twice) < SMALLEST_PATCH_MM2 ? EMPTY_REGION : twice
}

/** Where shells lie in one another, and how much; null when it is less than could be seen. */
export type OverlapExtent = {
  readonly volumeMm3: number
  readonly lowestMm: number
  readonly highestMm: number
  readonly sentence: string
}

const WORTH_TELLING_MM3 = 1

export function overlapExtent({
  layers,
  overlaps,
}: Pick<Slices, 'layers' | 'overlaps'>): OverlapExtent | null {
  const volumeMm3 = overlaps.reduce(
    (sum, { layerIndex, region }) =>
      sum + regionAreaMm2(region) * (layers[layerIndex].topMm - layers[layerIndex].bottomMm),
    0,
  )
  if (volumeMm3 < WORTH_TELLING_MM3) return null
  const lowestMm = layers[overlaps[0].layerIndex].bottomMm
  const highestMm = layers[overlaps[overlaps.length - 1].layerIndex].topMm
  const sentence = `Its shells lie in one another by ${Number((volumeMm3 / 1000).toPrecision(3))} cm³, from ${lowestMm.toFixed(1)} to ${highestMm.toFixed(1)} mm up; sliced, that counts once.`
  return { volumeMm3, lowestMm, highestMm, sentence }
}
