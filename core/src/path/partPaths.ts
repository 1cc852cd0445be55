import type { Checkpoint, Layer } from '../slice'
import {
  dropSmallPieces,
  EMPTY_REGION,
  hatch,
  isEmptyRegion,
  type PolygonEngine,
  type Region,
} from '../polygon'
import { PATH_TOLERANCE_MM } from '../tolerances'
import { addSegments } from './addLines'
import { joinPaths, NO_PATHS, PathWriter, type ToolPaths } from './toolPaths'
import { wallLines, type Walls } from './wallLines'

export type PartPathOptions = {
  readonly lineWidthMm: number
  readonly walls: number
  /** Share of the inside that is filled, 0 to 1. */
  readonly fillDensity: number
  /** Solid layers under every upper and above every lower face. */
  readonly skinLayers: number
  /** Whether the face is laid before or after the walls behind it. */
  readonly wallsFrom?: 'outside' | 'inside'
  /** Undersides that span free: their lines run from carrier to carrier. */
  readonly bridges?: readonly FreeBridge[]
}

/** Where the lines of a layer lie over nothing, carriers included that they begin and end on. */
export type FreeBridge = {
  readonly layerIndex: number
  readonly region: Region
  /** Degrees from +x. */
  readonly directionDeg: number
}

/** Direction of the part's solid and fill lines on a layer: they cross from layer to layer. */
export const partLineAngleDeg = (layerIndex: number): number => (layerIndex % 2 === 0 ? 45 : -45)

/** Walls, skins and fill of every layer of the part. */
export async function partPaths(
  layers: readonly Layer[],
  engine: PolygonEngine,
  options: PartPathOptions,
  checkpoint?: Checkpoint,
): Promise<ToolPaths[]> {
  const { lineWidthMm: w, skinLayers } = options
  const made: ToolPaths[] = []
  const coarse = coarseRegions(layers, engine)
  const bridgesAt = new Map<number, FreeBridge[]>()
  for (const one of options.bridges ?? [])
    bridgesAt.set(one.layerIndex, [...(bridgesAt.get(one.layerIndex) ?? []), one])
  let wallsOf: Region | null = null
  let walls: Walls = { rings: [], inside: EMPTY_REGION }
  for (let i = 0; i < layers.length; i++) {
    if (checkpoint && i % 4 === 0) await checkpoint(i, layers.length)
    const { region } = layers[i]
    if (isEmptyRegion(region)) {
      made.push(NO_PATHS)
      continue
    }
    if (region !== wallsOf) {
      walls = wallLines(coarse[i], options.walls, engine, w)
      wallsOf = region
    }
    const inner = walls.inside
    const rings = options.wallsFrom === 'inside' ? walls.rings.toReversed() : walls.rings
    const writer = new PathWriter()
    if (!isEmptyRegion(inner)) {
      let solid = skinLayers === 0 ? null : solidPart(coarse, i, inner, skinLayers, engine, w)
      const angle = partLineAngleDeg(i)
      let filled = inner
      for (const { region: spanned, directionDeg } of bridgesAt.get(i) ?? []) {
        if (!solid) break
        const bridge = dropSmallPieces(engine.common(inner, spanned), 4 * w * w)
        if (isEmptyRegion(bridge)) continue
        addSegments(writer, 'bridge', hatch(bridge, directionDeg, w, w / 2), { mm: 2 * w })
        solid = engine.minus(solid, bridge)
        filled = engine.minus(filled, bridge)
      }
      if (solid) addSegments(writer, 'skin', hatch(solid, angle, w, w / 2), { mm: 2 * w })
      const open = solid ? engine.minus(filled, solid) : filled
      if (options.fillDensity > 0)
        addSegments(writer, 'fill', hatch(open, angle, w / options.fillDensity, w / 2), {
          mm: (1.6 * w) / options.fillDensity,
          within: coarse[i],
        })
    }
    made.push(joinPaths([...rings, writer.finish()]))
  }
  return made
}

/** Outlines as coarse as paths may be; equal layers share one. */
function coarseRegions(layers: readonly Layer[], engine: PolygonEngine): Region[] {
  const coarse: Region[] = []
  layers.forEach(({ region }, i) =>
    coarse.push(
      i > 0 && layers[i - 1].region === region ? coarse[i - 1] : engine.thin(region, PATH_TOLERANCE_MM),
    ),
  )
  return coarse
}

/**
 * What of the inside lies near an upper or lower face. The layers next to this one and those a skin's depth
 * away stand for all between: a hollow thinner than a skin and missed by all four would be bridged by its own
 * skin anyway.
 */
function solidPart(
  regions: readonly Region[],
  i: number,
  inner: Region,
  depth: number,
  engine: PolygonEngine,
  lineWidthMm: number,
): Region | null {
  if (i - depth < 0 || i + depth >= regions.length) return inner
  const own = regions[i]
  const around = [...new Set([i - 1, i + 1, i - depth, i + depth].map((j) => regions[j]))].filter(
    (region) => region !== own,
  )
  if (around.length === 0) return null
  const solid = dropSmallPieces(engine.minusCommon(inner, ...around), 4 * lineWidthMm * lineWidthMm)
  return isEmptyRegion(solid) ? null : solid
}
