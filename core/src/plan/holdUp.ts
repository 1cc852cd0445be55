import type { Holding } from '../decide'
import { EMPTY_REGION, isEmptyRegion, regionAreaMm2, type Region, type RememberingEngine } from '../polygon'
import type { Checkpoint } from '../slice'
import {
  drawnStands,
  ringsAround,
  standSupports,
  thickLayers,
  type Held,
  type Levels,
  type Outlines,
  type Rest,
  type SupportPass,
  type Supports,
  type ThickRules,
} from '../stand'
import { SAME_HEIGHT_MM } from '../tolerances'
import { radians } from '../units'
import type { HoldingGroup } from './assign'

/** Side gaps are kept within this. */
const KEPT_MM = 0.01

export type HoldUpInput = {
  readonly levels: Levels
  readonly outlines: Outlines
  readonly engine: RememberingEngine
  readonly groups: readonly HoldingGroup[]
  /** The decisions of each group. */
  readonly holdings: readonly Holding[]
  /** What of each level bodies fill that the maker drew as stands. */
  readonly drawn: readonly Region[] | null
  /** Everything that is to be held, per layer. */
  readonly hold: readonly Region[]
  readonly lineWidthMm: number
  readonly thicknessMm: readonly [number, number]
  readonly stepLimitMm: number
  readonly leanDeg: number
  readonly linesApartMm: number
  readonly footingLines: number
  readonly brimLines: number
  readonly checkpoint?: Checkpoint
}

/**
 * Everything that holds a part up: drawn stands, then posts, then exceptions from the last to the first, then
 * the letter's own.
 */
export async function holdUp(input: HoldUpInput): Promise<Supports> {
  const { levels, outlines, engine, groups, holdings, hold } = input
  const passes: SupportPass[] = []
  const rests: Rest[] = []
  const held = groups.map((): ReadonlyMap<number, Held> => new Map())
  const filled: (readonly Region[])[] = []
  let reachedByDrawn: ReadonlyMap<number, Held> = new Map()
  if (input.drawn) {
    const found = drawnStands(input.drawn, hold, outlines, levels, engine, 0, holdings[0].upperGapMm)
    passes.push(...found.passes)
    filled.push(found.columns)
    reachedByDrawn = found.held
  }
  const active = groups
    .map((group, g) => ({ group, holding: holdings[g], g }))
    // A post set by hand is meant, whatever else is held.
    .filter(
      ({ group, holding }) =>
        (holding.supports || group.kind === 'posts') && group.wanted.some((region) => !isEmptyRegion(region)),
    )
    .reverse()
  for (const [n, { group, holding, g }] of active.entries()) {
    const made = await standSupports({
      levels,
      outlines,
      engine,
      holding: g,
      wanted: group.wanted.map((region, i) => without(region, reachedByDrawn.get(i)?.reached, engine)),
      sloped: group.sloped,
      tops: group.tops,
      rules: holding,
      lineWidthMm: input.lineWidthMm,
      thicknessMm: input.thicknessMm,
      stepLimitMm: input.stepLimitMm,
      leanDeg: input.leanDeg,
      linesApartMm: input.linesApartMm,
      taken: (level) => takenAt(filled, level),
      checkpoint:
        input.checkpoint && ((done, total) => input.checkpoint!(n * total + done, active.length * total)),
    })
    const laid = holding.thickStands
      ? thickLayers(made.passes, thickRules(input, holding), engine)
      : made.passes
    passes.push(...laid)
    rests.push(...made.rests)
    held[g] = made.held
    filled.push(made.columns)
  }
  passes.push(...onTheBed(input, filled, active[0]?.g ?? 0))
  return { passes: passes.toSorted((a, b) => a.topMm - b.topMm), held, drawn: reachedByDrawn, rests }
}

/** How stand layers are joined: at the side gap, branches within their lean, straight ones within a line. */
function thickRules(
  { levels, outlines, thicknessMm, lineWidthMm, leanDeg }: HoldUpInput,
  { standKind, sideGapMm }: Holding,
): ThickRules {
  return {
    thickestMm: thicknessMm[1],
    lineWidthMm,
    reachMm: standKind === 'straight' ? lineWidthMm / 2 : levels.heightMm * Math.tan(radians(leanDeg)),
    barred({ bottomMm, topMm }) {
      const found: Region[] = []
      for (let k = 0; k < outlines.count && levels.zOf(k) < topMm - SAME_HEIGHT_MM; k++)
        if (levels.zOf(k + 1) > bottomMm + SAME_HEIGHT_MM) found.push(outlines.grown(k, sideGapMm - KEPT_MM))
      return found
    },
  }
}

const without = (region: Region, reached: Region | undefined, engine: RememberingEngine): Region =>
  reached && !isEmptyRegion(region) ? engine.minus(region, reached) : region

/** What other supports fill at a level, and at its neighbours: they may lie a part of a layer lower. */
function takenAt(filled: readonly (readonly Region[])[], level: number): Region[] {
  const found = new Set<Region>()
  for (const columns of filled)
    for (const k of [level - 1, level, level + 1]) {
      const region = columns[k]
      if (region && !isEmptyRegion(region)) found.add(region)
    }
  return [...found]
}

/** Rings around what stands on the bed. */
function onTheBed(
  { outlines, levels, engine, holdings, lineWidthMm, footingLines, brimLines }: HoldUpInput,
  filled: readonly (readonly Region[])[],
  holding: number,
): SupportPass[] {
  const firstMm = levels.zOf(1)
  const stands = filled
    .map((columns) => columns[0] ?? EMPTY_REGION)
    .filter((region) => !isEmptyRegion(region))
  const part = outlines.at(0)
  const sideGapMm = Math.max(...holdings.map((one) => one.sideGapMm))
  const all = stands.length === 0 ? EMPTY_REGION : engine.union(...stands)
  const footing = ringsAround(
    'footing',
    all,
    footingLines,
    lineWidthMm,
    [outlines.grown(0, sideGapMm)],
    firstMm,
    holding,
    engine,
  )
  const apart = regionAreaMm2(all) > 0 ? [engine.grow(all, lineWidthMm / 2, 'round', 0.01)] : []
  const brim = ringsAround(
    'brim',
    part,
    brimLines,
    lineWidthMm,
    footing ? [...apart, engine.grow(footing.region, lineWidthMm / 2, 'round', 0.01)] : apart,
    firstMm,
    holding,
    engine,
  )
  return [footing, brim].filter((pass) => pass !== null)
}
