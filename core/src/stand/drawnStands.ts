import { EMPTY_REGION, isEmptyRegion, regionAreaMm2, type PolygonEngine, type Region } from '../polygon'
import type { Levels } from './levels'
import type { Outlines } from './outlines'
import type { Held, SupportPass } from './supports'

/** Height within which a drawn stand's top counts as under an underside: the gap its drawer left. */
const DRAWN_GAP_MM = 0.6

/** Stands that the maker drew: printed as they are, less the part. */
export type Drawn = {
  readonly passes: readonly SupportPass[]
  /** By the layer that they hold some of. */
  readonly held: ReadonlyMap<number, Held>
  readonly columns: readonly Region[]
}

/**
 * @param drawn what of each level the drawn bodies fill
 * @param wanted what of each layer's underside is to be held
 * @param askedGapMm the gap of the plan, which the drawer need not have kept
 */
export function drawnStands(
  drawn: readonly Region[],
  wanted: readonly Region[],
  outlines: Outlines,
  levels: Levels,
  engine: PolygonEngine,
  holding: number,
  askedGapMm: number,
): Drawn {
  const columns = drawn.map((region, k) =>
    isEmptyRegion(region) ? EMPTY_REGION : engine.minus(region, outlines.at(k)),
  )
  const passes = columns.flatMap((region, k): SupportPass[] =>
    isEmptyRegion(region)
      ? []
      : [
          {
            role: 'stand',
            fill: k === 0 ? 'solid' : 'stand',
            holding,
            bottomMm: levels.zOf(k),
            topMm: levels.zOf(k + 1),
            region,
            facesLayer: k + 1,
          },
        ],
  )
  const held = new Map<number, Held>()
  wanted.forEach((hold, i) => {
    if (isEmptyRegion(hold)) return
    // The highest level below decides what gap there is; lower ones hold only what that leaves.
    for (let k = i - 1; k >= 0 && levels.zOf(i) - levels.zOf(k + 1) < DRAWN_GAP_MM; k--) {
      if (isEmptyRegion(columns[k])) continue
      const reached = engine.common(hold, columns[k])
      if (regionAreaMm2(reached) < 0.01) continue
      const achievedGapMm = levels.zOf(i) - levels.zOf(k + 1)
      held.set(i, {
        layerIndex: i,
        wanted: hold,
        reached,
        topMm: levels.zOf(k + 1),
        gapMm: askedGapMm,
        achievedGapMm,
        why: 'A stand that was drawn ends where its drawer put it.',
        unheldMm2: {},
        stack: [],
        drawn: true,
      })
      break
    }
  })
  return { passes, held, columns }
}
