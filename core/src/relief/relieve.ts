import { bridgeOf, sideReach, type SideAngles } from '../overhang'
import {
  boundsOf,
  EMPTY_REGION,
  growBy,
  isEmptyRegion,
  regionAreaMm2,
  regionFromRings,
  splitPieces,
  type PolygonEngine,
  type Region,
} from '../polygon'
import type { Checkpoint, Layer } from '../slice'
import { SMALLEST_PATCH_MM2 } from '../tolerances'
import { radians } from '../units'

export type ReliefOptions = {
  /** `add` puts material under what leans too far, `cut` takes away what leans too far. */
  readonly mode: 'add' | 'cut'
  readonly freeAngleDeg: number
  readonly sideAnglesDeg?: SideAngles
  readonly lineWidthMm: number
  /** Undersides carried on two sides stay as they are up to this length. */
  readonly freeSpanMm: number
}

/** A part whose shape was changed so that nothing of it leans past the limit. */
export type Relief = {
  readonly layers: readonly Layer[]
  readonly addedMm3: number
  readonly cutMm3: number
  /** Layers that differ. */ readonly changed: number
}

/**
 * Changes a part layer by layer until every layer rests on the one below.
 *
 * Cutting goes upwards: of a layer stays what the layer below, grown by the step that the limit allows,
 * carries. Adding goes downwards: under every layer stands what is left of it after the same step is taken
 * off all round, so that wedges grow under ledges. A ceiling with walls all round would fill its room to the
 * floor; instead its middle is left open as wide as a free span and opens further by a step a layer, which
 * makes a vault. Islands get a wedge that ends in a post.
 */
export async function relieve(
  layers: readonly Layer[],
  engine: PolygonEngine,
  options: ReliefOptions,
  checkpoint?: Checkpoint,
): Promise<Relief> {
  const regions =
    options.mode === 'cut'
      ? await cut(layers, engine, options, checkpoint)
      : await add(layers, engine, options, checkpoint)
  let [addedMm3, cutMm3, changed] = [0, 0, 0]
  const relieved = layers.map((layer, i) => {
    if (regions[i] === layer.region) return layer
    const height = layer.topMm - layer.bottomMm
    const change = (regionAreaMm2(regions[i]) - regionAreaMm2(layer.region)) * height
    if (change > 0) addedMm3 += change
    else cutMm3 -= change
    changed++
    return { ...layer, region: regions[i] }
  })
  return { layers: relieved, addedMm3, cutMm3, changed }
}

/** Taken off every step, so that thinned outlines and another slicing of the result stay within the limit. */
const MARGIN_MM = 0.006

/**
 * How far a layer may step out over the one below it: the same all round, or towards each side by its own
 * limit.
 */
type Step = { readonly reachMm: number; grow(region: Region): Region; shrink(region: Region): Region }

function steps(
  layers: readonly Layer[],
  engine: PolygonEngine,
  { freeAngleDeg, sideAnglesDeg = null }: ReliefOptions,
) {
  return (i: number): Step => {
    const dzMm = (layers[i].topMm + layers[i].bottomMm - layers[i - 1].topMm - layers[i - 1].bottomMm) / 2
    const reachMm = Math.max(0, dzMm * Math.tan(radians(freeAngleDeg)) - MARGIN_MM)
    if (!sideAnglesDeg)
      return {
        reachMm,
        grow: (region) => engine.grow(region, reachMm, 'round', THIN_MM),
        shrink: (region) => engine.grow(region, -reachMm, 'round', THIN_MM),
      }
    const reach = sideReach(freeAngleDeg, sideAnglesDeg, dzMm, -MARGIN_MM)
    return {
      reachMm,
      grow: (region) => growBy(region, reach, engine),
      // What the air around, grown the other way round, does not reach.
      shrink: (region) =>
        engine.minus(
          region,
          growBy(
            engine.minus(frameAround(region), region),
            reach.map((value) => -value),
            engine,
          ),
        ),
    }
  }
}

/** A box well around a region. */
function frameAround(region: Region): Region {
  const { minX, minY, maxX, maxY } = boundsOf(region.xyMm)
  const [x0, y0, x1, y1] = [minX - AROUND_MM, minY - AROUND_MM, maxX + AROUND_MM, maxY + AROUND_MM]
  return regionFromRings([[x0, y0, x1, y0, x1, y1, x0, y1]])
}
const AROUND_MM = 5

async function cut(
  layers: readonly Layer[],
  engine: PolygonEngine,
  options: ReliefOptions,
  checkpoint?: Checkpoint,
): Promise<Region[]> {
  const stepOf = steps(layers, engine, options)
  const kept: Region[] = [layers[0].region]
  for (let i = 1; i < layers.length; i++) {
    if (checkpoint && i % 8 === 0) await checkpoint(i, layers.length)
    const { region } = layers[i]
    const below = kept[i - 1]
    if (region === layers[i - 1].region && below === layers[i - 1].region) {
      kept.push(region)
      continue
    }
    const grown = stepOf(i).grow(below)
    const past = engine.minus(region, grown)
    const gone = splitPieces(past).filter(
      (piece) => !bridgeOf(piece, layers[i], grown, options.lineWidthMm, options.freeSpanMm, engine)?.free,
    )
    kept.push(
      gone.length === 0 || regionAreaMm2(past) < SMALLEST_PATCH_MM2
        ? region
        : engine.thin(engine.minus(region, ...gone), THIN_MM),
    )
  }
  return kept
}

async function add(
  layers: readonly Layer[],
  engine: PolygonEngine,
  options: ReliefOptions,
  checkpoint?: Checkpoint,
): Promise<Region[]> {
  const stepOf = steps(layers, engine, options)
  const full: Region[] = layers.map((layer) => layer.region)
  for (let i = layers.length - 2; i >= 0; i--) {
    if (checkpoint && i % 8 === 0) await checkpoint(layers.length - i, layers.length)
    const above = full[i + 1]
    const own = layers[i].region
    if (above === own || isEmptyRegion(above)) continue
    const step = stepOf(i + 1)
    const wanted = step.shrink(above)
    const extra = engine.minus(wanted, own)
    const open = openings(
      extra,
      wanted,
      engine.minus(layers[i + 1].region, own),
      Math.max(step.reachMm, options.freeSpanMm / 2),
      engine,
    )
    const added = open.length > 0 ? engine.minus(extra, ...open) : extra
    // Dust beside the outline would only add corners.
    const solid = engine.grow(engine.grow(added, -DUST_MM, 'miter'), DUST_MM, 'miter')
    const below = isEmptyRegion(solid) ? own : engine.union(own, engine.grow(solid, LAP_MM, 'miter'))
    const posts = postsUnder(above, below, step, engine)
    if (below !== own || posts.length > 0) full[i] = engine.thin(engine.union(below, ...posts), THIN_MM)
  }
  return full
}

const DUST_MM = 0.002
/** What is added laps over what is there, so that no hair stays between them. */
const LAP_MM = 0.002
const THIN_MM = 0.001

/**
 * Pieces of what is above of which nothing at all is carried: islands worn down to a ridge. They go straight
 * down as posts.
 */
function postsUnder(above: Region, below: Region, step: Step, engine: PolygonEngine): Region[] {
  const pieces = splitPieces(above)
  const carried = step.grow(below)
  return pieces.filter(
    (piece) => regionAreaMm2(piece) >= SMALLEST_PATCH_MM2 && isEmptyRegion(engine.common(piece, carried)),
  )
}

/** The middles of fresh ceilings that have walls all round: open no wider than twice `halfMm`. */
function openings(
  extra: Region,
  wanted: Region,
  ceiling: Region,
  halfMm: number,
  engine: PolygonEngine,
): Region[] {
  if (isEmptyRegion(engine.common(extra, ceiling))) return []
  const rim = engine.minus(wanted, engine.grow(wanted, -0.05, 'miter'))
  // Where a piece reaches the edge of what is above, air comes in from the side and a wedge will do.
  const enclosed = splitPieces(extra).filter((piece) => regionAreaMm2(engine.common(piece, rim)) < 1e-3)
  return enclosed
    .flatMap((piece) => splitPieces(engine.common(piece, ceiling)))
    .flatMap((piece) => {
      const inradius = inradiusOf(piece, engine)
      const middle = inradius <= halfMm ? piece : engine.grow(piece, halfMm - inradius)
      // A little more than nothing: at the very middle rounding may leave a line.
      return isEmptyRegion(middle)
        ? []
        : [
            inradius <= halfMm
              ? middle
              : engine.common(piece, engine.grow(engine.grow(piece, 0.02 - inradius), halfMm)),
          ]
    })
}

function inradiusOf(piece: Region, engine: PolygonEngine): number {
  let [low, high] = [0, Math.sqrt(regionAreaMm2(piece) / Math.PI) + 0.01]
  while (high - low > 0.01) {
    const middle = (low + high) / 2
    if (isEmptyRegion(engine.grow(piece, -middle, 'miter'))) high = middle
    else low = middle
  }
  return low
}

/** What two stacks of the same layers do not share: what was added, and what was cut. */
export function reliefChange(
  before: readonly Layer[],
  after: readonly Layer[],
  engine: PolygonEngine,
): { readonly added: readonly Region[]; readonly cut: readonly Region[] } {
  const differ = (a: readonly Layer[], b: readonly Layer[]) =>
    a.map((layer, i) =>
      layer.region === b[i].region ? EMPTY_REGION : engine.minus(layer.region, b[i].region),
    )
  return { added: differ(after, before), cut: differ(before, after) }
}
