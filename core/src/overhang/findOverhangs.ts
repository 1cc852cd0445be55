import type { Checkpoint, Layer } from '../slice'
import {
  boundsOf,
  EMPTY_REGION,
  growBy,
  isEmptyRegion,
  joinPieces,
  nearSides,
  regionAreaMm2,
  regionContains,
  splitPieces,
  type PolygonEngine,
  type Region,
} from '../polygon'
import { ARC_TOLERANCE_MM, fineness, OVERHANG_SLACK_MM, SMALLEST_PATCH_MM2 } from '../tolerances'
import { radians } from '../units'
import { bridgeOf, type Bridge } from './bridges'
import { islandsOf, withKeeper, type Island } from './islands'
import { gatherPatches, type Patch, type Piece } from './patches'
import { sideReach, type SideAngles } from './sideLimits'
import type { ZoneLayers } from './zones'

export type Overhangs = {
  readonly patches: readonly Patch[]
  readonly islands: readonly Island[]
  /** What is carried on two opposite sides, free or not. */
  readonly bridges: readonly Bridge[]
  /** Per layer: everything of it that needs holding (empty regions where nothing does). */
  readonly hold: readonly Region[]
  /** How far a layer may step out beyond the one below, for full layers. */
  readonly stepLimitMm: number
}

export type OverhangOptions = {
  readonly freeAngleDeg: number
  /** Limits per side of the printer instead of one for all. */
  readonly sideAnglesDeg?: SideAngles
  readonly lineWidthMm: number
  /** Longest bridge that stays free; 0 holds them all. */
  readonly freeSpanMm?: number
  readonly zones?: readonly ZoneLayers[]
}

/**
 * Finds what needs holding: U[i] = L[i] - grow(L[i-1], dz * tan(freeAngle)), dz from middle to middle of the
 * two layers; with limits per side, grown by the shape of those limits.
 *
 * A slope just past the limit leaves only a hair of U on each layer; what has to be held is the whole step it
 * belongs to, so each hair is widened to the step of L[i] over L[i-1] around it. Bridges no longer than the
 * free span stay free. Patches that vanish when half a line is taken off are dropped, unless they hold an
 * island or a zone asks for them.
 * Source: right triangle; step = layer height * tan(angle from vertical).
 */
export async function findOverhangs(
  layers: readonly Layer[],
  engine: PolygonEngine,
  options: OverhangOptions,
  checkpoint?: Checkpoint,
): Promise<Overhangs> {
  const { freeAngleDeg, sideAnglesDeg = null, lineWidthMm, freeSpanMm = 0, zones = [] } = options
  const steepest = sideAnglesDeg ? Math.max(...sideAnglesDeg) : freeAngleDeg
  const tan = Math.tan(radians(steepest))
  const pieces: Piece[] = []
  const islands: Island[] = []
  const bridges: Bridge[] = []
  for (let i = 1; i < layers.length; i++) {
    if (checkpoint && i % 8 === 0) await checkpoint(i, layers.length)
    const layer = layers[i]
    const below = layers[i - 1].region
    if (layer.region === below || isEmptyRegion(layer.region)) continue
    const found = islandsOf(layer, below, engine)
    for (const island of found) islands.push(zones.length > 0 ? withKeeper(island, zones, engine) : island)
    const dzMm = (layer.topMm + layer.bottomMm - layers[i - 1].topMm - layers[i - 1].bottomMm) / 2
    const slack = OVERHANG_SLACK_MM * fineness(dzMm)
    const beyond = (reachMm: number) =>
      engine.minusGrown(layer.region, below, reachMm, ARC_TOLERANCE_MM * fineness(dzMm))
    const reach = dzMm * tan + slack
    const hanging = sideAnglesDeg
      ? engine.minus(layer.region, growBy(below, sideReach(freeAngleDeg, sideAnglesDeg, dzMm, slack), engine))
      : beyond(reach)
    const marked = zones.filter(({ regions }) => !isEmptyRegion(regions[i]))
    if (isEmptyRegion(hanging) && found.length === 0 && marked.length === 0) continue
    const step = engine.minus(layer.region, below)
    const seeds = engine.union(hanging, ...found.map((island) => island.region))
    const isIsland = (region: Region) => found.some((one) => touches(one.region, region))
    const add = (held: readonly Region[], wanted: boolean) => {
      for (const region of held) {
        const areaMm2 = regionAreaMm2(region)
        const island = isIsland(region)
        if (areaMm2 >= SMALLEST_PATCH_MM2 || island)
          pieces.push({ layer, region, areaMm2, island, wanted, bounds: boundsOf(region.xyMm) })
      }
    }
    // Bridges are judged whole, before any zone cuts a piece out of them.
    const usual = splitPieces(wholeSteps(step, seeds, reach, engine)).filter((region) => {
      if (regionAreaMm2(region) < SMALLEST_PATCH_MM2 || isIsland(region)) return true
      const bridge = bridgeOf(region, layer, below, lineWidthMm, freeSpanMm, engine)
      if (bridge) bridges.push(bridge)
      return !bridge?.free
    })
    if (marked.length === 0) add(usual, false)
    else {
      // What lies in no zone is judged as ever; in each zone its own limit counts, and the later zone goes
      // before the earlier.
      let later: Region[] = []
      for (const { zone, regions } of [...marked].reverse()) {
        const here = engine.minus(engine.common(step, regions[i]), ...later)
        const within = dzMm * Math.tan(radians(Math.min(zone.limitDeg, 89.9))) + slack
        const past =
          zone.limitDeg >= 90
            ? EMPTY_REGION
            : zone.limitDeg <= 0
              ? step
              : wholeSteps(step, beyond(within), within, engine)
        add(splitPieces(engine.common(here, past)), zone.kind === 'hold')
        later = [...later, regions[i]]
      }
      add(
        usual.flatMap((region) => splitPieces(engine.minus(region, ...later))),
        false,
      )
    }
  }
  const patches = gatherPatches(pieces, layers, lineWidthMm, engine)
  const hold: Region[] = new Array<Region>(layers.length).fill(EMPTY_REGION)
  const perLayer = new Map<number, Region[]>()
  for (const patch of patches)
    for (const [index, region] of patch.steps) perLayer.set(index, [...(perLayer.get(index) ?? []), region])
  for (const [index, regions] of perLayer) hold[index] = joinPieces(regions)
  const full = layers.length > 2 ? layers[2].topMm - layers[2].bottomMm : layers[0].topMm
  return { patches, islands, bridges, hold, stepLimitMm: full * tan }
}

/**
 * A hair's outline is thinned by this before it is widened, and widened by as much more: growing its every
 * bend would cost more than all else.
 */
const HAIR_MM = 0.005

/** What of a step belongs to the hairs on it. */
const wholeSteps = (step: Region, hairs: Region, reachMm: number, engine: PolygonEngine): Region =>
  engine.commonGrown(step, engine.thin(hairs, HAIR_MM), reachMm + HAIR_MM, 'miter')

const touches = (island: Region, piece: Region) =>
  regionContains(island, piece.xyMm[0], piece.xyMm[1]) ||
  nearSides(island, piece.xyMm[0], piece.xyMm[1], 0.01)
