import { TenderError } from '../errors'
import { holdingUnder, type Exception, type Holding, type Post, type Where } from '../decide'
import type { Overhangs, Patch, ZoneLayers } from '../overhang'
import {
  boundsOf,
  EMPTY_REGION,
  isEmptyRegion,
  joinPieces,
  regionAreaMm2,
  regionFromRings,
  splitPieces,
  type PolygonEngine,
  type Region,
} from '../polygon'
import type { Layer } from '../slice'

/** Undersides that are held alike. */
export type HoldingGroup = {
  /** 0 is the letter itself, then its exceptions in their order; posts come last. */
  readonly index: number
  readonly kind: 'letter' | 'exception' | 'posts'
  /** Per layer: what of its underside belongs to it. */
  readonly wanted: readonly Region[]
  /** Layers of undersides that go on over several layers. */
  readonly sloped: ReadonlySet<number>
  /** Per patch: its steps that belong here. */
  readonly patches: ReadonlyMap<number, ReadonlyMap<number, Region>>
  /** For posts: what ends at each layer, instead of a contact with a margin. */
  readonly tops: ReadonlyMap<number, Region> | null
}

export type AssignInput = {
  readonly layers: readonly Layer[]
  readonly overhangs: Overhangs
  readonly exceptions: readonly { readonly where: Where }[]
  readonly posts: readonly Post[]
  /** Zones that exceptions name, cut by the layers. */
  readonly zones: readonly ZoneLayers[]
}

/**
 * Distributes what needs holding over the letter and its exceptions; of several exceptions the last that fits
 * counts.
 */
export function assignHoldings(
  { layers, overhangs, exceptions, posts, zones }: AssignInput,
  engine: PolygonEngine,
): HoldingGroup[] {
  const groups = [
    aGroup(0, 'letter', layers.length),
    ...exceptions.map((_, e) => aGroup(e + 1, 'exception', layers.length)),
  ]
  const above = exceptions.map(({ where }) => ('contact' in where ? patchAt(where.contact, overhangs) : null))
  for (const patch of overhangs.patches) {
    let left: ReadonlyMap<number, Region> = patch.steps
    for (let e = exceptions.length - 1; e >= 0 && left.size > 0; e--) {
      const { where } = exceptions[e]
      if ('kind' in where ? where.kind === patch.kind : 'contact' in where && above[e] === patch.id) {
        take(groups[e + 1], patch, left)
        left = new Map()
      } else if ('zone' in where) {
        const regions = zones.find(({ zone }) => zone.id === where.zone)?.regions
        if (!regions) continue
        const inside = new Map<number, Region>()
        const outside = new Map<number, Region>()
        for (const [index, step] of left) {
          const within = engine.common(step, regions[index])
          if (regionAreaMm2(within) < 0.01) outside.set(index, step)
          else {
            inside.set(index, within)
            const rest = engine.minus(step, regions[index])
            if (!isEmptyRegion(rest)) outside.set(index, rest)
          }
        }
        take(groups[e + 1], patch, inside)
        left = outside
      }
    }
    take(groups[0], patch, left)
  }
  const made = groups.map(finish)
  return posts.length > 0 ? [...made, postGroup(groups.length, posts, layers, engine)] : made
}

type Growing = Omit<HoldingGroup, 'wanted' | 'sloped' | 'patches'> & {
  readonly parts: Region[][]
  readonly sloped: Set<number>
  readonly patches: Map<number, ReadonlyMap<number, Region>>
}

const aGroup = (index: number, kind: HoldingGroup['kind'], layers: number): Growing => ({
  index,
  kind,
  parts: Array.from({ length: layers }, () => []),
  sloped: new Set(),
  patches: new Map(),
  tops: null,
})

function take(group: Growing, patch: Patch, steps: ReadonlyMap<number, Region>): void {
  if (steps.size === 0) return
  group.patches.set(patch.id, steps)
  for (const [index, step] of steps) {
    group.parts[index].push(step)
    if (patch.steps.size > 1) group.sloped.add(index)
  }
}

const finish = ({ parts, ...group }: Growing): HoldingGroup => ({
  ...group,
  wanted: parts.map((regions) =>
    regions.length === 0 ? EMPTY_REGION : regions.length === 1 ? regions[0] : joinPieces(regions),
  ),
})

/**
 * A place means an underside at its height: sideways much of one may go, or come, with another limit, and it
 * is still the same one.
 */
const MEANT_RISE_MM = 2.5
const MEANT_ASIDE_MM = 40
/** Of several the nearest; heights count for more. */
const RISE_COUNTS = 4

/** The underside that is meant by a place; null where none is near. */
function patchAt([x, y, z]: readonly [number, number, number], { patches }: Overhangs): number | null {
  let best: number | null = null
  let nearest = Infinity
  for (const patch of patches) {
    const rise = Math.max(0, patch.lowestMm - z, z - patch.highestMm)
    if (rise > MEANT_RISE_MM) continue
    for (const region of patch.steps.values()) {
      const box = boundsOf(region.xyMm)
      const aside = Math.hypot(
        Math.max(0, box.minX - x, x - box.maxX),
        Math.max(0, box.minY - y, y - box.maxY),
      )
      const d = aside + RISE_COUNTS * rise
      if (aside <= MEANT_ASIDE_MM && d < nearest) {
        nearest = d
        best = patch.id
      }
    }
  }
  return best
}

const ROUND = 32
/** A post that stands farther than this from any underside holds nothing. */
export const POST_REACH_MM = 3
/** Posts nearer than this many widths make a clump. */
const CLUMP_WIDTHS = 2.5

const disc = (x: number, y: number, widthMm: number): Region =>
  regionFromRings([
    Array.from({ length: ROUND }, (_, k) => (2 * Math.PI * k) / ROUND).flatMap((turn) => [
      x + (widthMm / 2) * Math.cos(turn),
      y + (widthMm / 2) * Math.sin(turn),
    ]),
  ])

/** Posts end right below the underside that is nearest to where they were set, however thin it is. */
function postGroup(
  index: number,
  posts: readonly Post[],
  layers: readonly Layer[],
  engine: PolygonEngine,
): HoldingGroup {
  const wanted = new Array<Region>(layers.length).fill(EMPTY_REGION)
  const tops = new Map<number, Region>()
  for (const { atMm, widthMm } of posts) {
    const found = undersideAt(atMm, widthMm, layers, engine)
    if (!found) continue
    const { layerIndex, region } = found
    wanted[layerIndex] = engine.union(wanted[layerIndex], region)
    tops.set(layerIndex, engine.union(tops.get(layerIndex) ?? EMPTY_REGION, disc(atMm[0], atMm[1], widthMm)))
  }
  // What stands near each other at one height is one clump: the space between is closed.
  const reach = (CLUMP_WIDTHS / 2) * Math.max(...posts.map(({ widthMm }) => widthMm))
  for (const [layer, top] of tops)
    if (splitPieces(top).length > 1)
      tops.set(
        layer,
        engine.union(top, engine.grow(engine.grow(top, reach, 'round', 0.02), -reach, 'round', 0.02)),
      )
  return { index, kind: 'posts', wanted, sloped: new Set(), patches: new Map(), tops }
}

/** The underside nearest in height to a place, within a post's width of it. */
function undersideAt(
  [x, y, z]: readonly [number, number, number],
  widthMm: number,
  layers: readonly Layer[],
  engine: PolygonEngine,
): { readonly layerIndex: number; readonly region: Region } | null {
  const around = disc(x, y, widthMm)
  const near = layers
    .filter(({ index, bottomMm }) => index > 0 && Math.abs(bottomMm - z) <= POST_REACH_MM)
    .toSorted((a, b) => Math.abs(a.bottomMm - z) - Math.abs(b.bottomMm - z))
  for (const { index, region } of near) {
    const below = layers[index - 1].region
    if (region === below) continue
    const under = engine.minus(engine.common(around, region), below)
    if (regionAreaMm2(under) > 0.005) return { layerIndex: index, region: under }
  }
  return null
}

/**
 * The decisions of holding of each group.
 * @throws TenderError VALUE_OUT_OF_RANGE when an exception names a zone that is not there
 */
export function holdingsOf(
  base: Holding,
  exceptions: readonly Exception[],
  groups: readonly HoldingGroup[],
  zoneIds: readonly string[],
): Holding[] {
  for (const { where } of exceptions)
    if ('zone' in where && !zoneIds.includes(where.zone))
      throw new TenderError(
        'VALUE_OUT_OF_RANGE',
        `An exception names the zone "${where.zone}", which the plan does not have.`,
        { zone: where.zone },
      )
  return groups.map(({ kind, index }) =>
    kind === 'exception' ? holdingUnder(base, exceptions[index - 1]) : base,
  )
}
