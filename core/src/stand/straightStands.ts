import type { Checkpoint, Layer } from '../slice'
import type { Overhangs } from '../overhang'
import { dropSmallPieces, EMPTY_REGION, isEmptyRegion, regionAreaMm2, sameRegion, type PolygonEngine, type Region } from '../polygon'
import { PATH_TOLERANCE_MM } from '../tolerances'

export type StandOptions = {
  /** Where stands may start: on the bed alone, or on the part too. */
  readonly placement: 'bed' | 'anywhere'
  readonly sideGapMm: number
  readonly lowerGapMm: number
  /** How far stands reach beyond what they hold. */
  readonly marginMm: number
  readonly lineWidthMm: number
  readonly footingLines: number
  /** Stands that the maker drew: printed as they are, per layer; nothing is added under what they reach. */
  readonly readyMade?: readonly Region[] | null
}

export type Stands = {
  /** Per layer: the stand's area, interface and upper gap not yet taken off. */
  readonly columns: readonly Region[]
  /** Per layer: what of its underside is really held. */
  readonly contacts: readonly Region[]
  /** Per layer: the contact with its margin, as far as no taller stand passes there. */
  readonly tops: readonly Region[]
  /** Per layer: where no support may be, side gap included; regions that may overlap. */
  readonly barred: readonly (readonly Region[])[]
  /** Per patch: held area of each of its layers, mm2. */
  readonly heldMm2: readonly ReadonlyMap<number, number>[]
  /** Per island: held area, mm2. */
  readonly islandHeldMm2: readonly number[]
  /** Layers that a drawn stand holds some of. */
  readonly drawn: ReadonlySet<number>
  /** Extra lines around the stands on the bed. */
  readonly footing: Region
}

/** Outlines for side gaps and walls may be coarser than those for overhangs. */
const ARC_MM = 0.02
/** How far contacts of neighbouring layers overlap, so that their stands merge. */
const LAP_MM = 0.03

/**
 * Straight stands, from the top down: C[i] = (C[i+1] + contacts[i+1]) - grow(L[i], sideGap).
 *
 * Right under a slope the part itself lies within the side gap, though it is the upper gap that counts there. What is held is therefore
 * let off the side gap for the few layers that the slope needs to recede by it; next to an upright wall, which does not recede, the
 * side gap stays.
 */
export async function straightStands(layers: readonly Layer[], overhangs: Overhangs, engine: PolygonEngine, options: StandOptions, checkpoint?: Checkpoint): Promise<Stands> {
  const count = layers.length
  const h = count > 1 ? layers[1].topMm - layers[1].bottomMm : layers[0].topMm
  const grown = growCache(layers, engine, options.sideGapMm)
  const recede = options.sideGapMm > 0 ? Math.min(40, Math.ceil(options.sideGapMm / Math.max(0.02, overhangs.stepLimitMm))) : 0
  const reached = options.readyMade ? readyCover(options.readyMade, layers, overhangs, engine) : null
  const contacts = await contactsOf(layers, reached ? { ...overhangs, hold: overhangs.hold.map((hold, i) => engine.minus(hold, reached[i])) } : overhangs, engine, options, grown, recede, checkpoint)

  const laps: Region[] = []
  /** A contact, lapping a hair over its neighbours on the next layers of a slope. */
  const lapped = (k: number): Region => (laps[k] ??= engine.grow(contacts[k], LAP_MM, 'miter'))
  const columns: Region[] = new Array<Region>(count).fill(EMPTY_REGION)
  const tops: Region[] = new Array<Region>(count).fill(EMPTY_REGION)
  const barred: (readonly Region[])[] = layers.map((layer) => [layer.region])
  const lowerLayers = Math.round(options.lowerGapMm / h)
  let above: Region = EMPTY_REGION
  for (let i = count - 1; i >= 0; i--) {
    if (checkpoint && i % 8 === 0) await checkpoint(2 * count - i, 2 * count)
    const contact = i + 1 < count ? contacts[i + 1] : EMPTY_REGION
    if (!isEmptyRegion(contact)) {
      const wide = engine.thin(options.marginMm > 0 ? engine.grow(contact, options.marginMm, 'miter') : contact, PATH_TOLERANCE_MM)
      tops[i + 1] = engine.minus(wide, columns[i + 1])
      // The whole width, overlapping the column: pieces that only met along an edge would leave hairs between them for ever.
      above = engine.union(above, wide)
    }
    if (isEmptyRegion(above)) continue
    const letOff: Region[] = []
    for (let k = i + 1; k <= Math.min(count - 1, i + 1 + recede); k++) if (!isEmptyRegion(contacts[k])) letOff.push(lapped(k))
    barred[i] = letOff.length === 0 ? [grown(i)] : [engine.minus(grown(i), ...letOff), layers[i].region]
    const column = engine.thin(engine.minus(above, ...barred[i]), PATH_TOLERANCE_MM)
    columns[i] = above = i + 1 < count && sameRegion(column, columns[i + 1]) ? columns[i + 1] : column
  }
  if (options.placement === 'anywhere')
    for (let i = 1; i < count; i++) if (!isEmptyRegion(columns[i])) for (let k = 1; k <= lowerLayers && i - k >= 0; k++) columns[i] = engine.minus(columns[i], layers[i - k].region)
  if (options.readyMade) for (let i = 0; i < count; i++) columns[i] = engine.union(columns[i], engine.minus(options.readyMade[i] ?? EMPTY_REGION, layers[i].region))
  const smallest = options.lineWidthMm * options.lineWidthMm
  let shared: Region = EMPTY_REGION
  let tidy: Region = EMPTY_REGION
  for (let i = 0; i < count; i++) {
    // Equal layers keep sharing one object, so that whatever follows can skip the work.
    if (columns[i] !== shared) tidy = dropSmallPieces((shared = columns[i]), smallest)
    columns[i] = tidy
  }
  const foot = columns[0]
  const footing =
    options.footingLines > 0 && !isEmptyRegion(foot) ? engine.minus(engine.minus(engine.grow(foot, options.footingLines * options.lineWidthMm, 'round', ARC_MM), foot), grown(0)) : EMPTY_REGION
  return {
    columns,
    contacts,
    tops,
    barred,
    footing,
    drawn: new Set((reached ?? []).flatMap((region, i) => (isEmptyRegion(region) ? [] : [i]))),
    ...heldAreas(overhangs, reached ? contacts.map((contact, i) => engine.union(contact, reached[i])) : contacts, engine),
  }
}

/** Height within which a drawn stand's top counts as under an underside: the gap its drawer left. */
const DRAWN_GAP_MM = 0.6

/** Per layer: what of its hold lies above a drawn stand that ends no farther below than a gap. */
function readyCover(readyMade: readonly Region[], layers: readonly Layer[], overhangs: Overhangs, engine: PolygonEngine): Region[] {
  return overhangs.hold.map((hold, i) => {
    if (isEmptyRegion(hold)) return EMPTY_REGION
    const near: Region[] = []
    for (let k = i - 1; k >= 0 && layers[i].bottomMm - layers[k].topMm < DRAWN_GAP_MM; k--) if (readyMade[k] && !isEmptyRegion(readyMade[k])) near.push(readyMade[k])
    return near.length === 0 ? EMPTY_REGION : engine.common(hold, engine.union(...near))
  })
}

/** How much of each patch and island the contacts cover. */
function heldAreas(overhangs: Overhangs, contacts: readonly Region[], engine: PolygonEngine): Pick<Stands, 'heldMm2' | 'islandHeldMm2'> {
  const sharers = new Map<number, number>()
  for (const patch of overhangs.patches) for (const index of patch.steps.keys()) sharers.set(index, (sharers.get(index) ?? 0) + 1)
  return {
    heldMm2: overhangs.patches.map(
      ({ steps }) => new Map([...steps].map(([index, step]) => [index, regionAreaMm2(sharers.get(index) === 1 ? contacts[index] : engine.common(contacts[index], step))])),
    ),
    islandHeldMm2: overhangs.islands.map((island) => regionAreaMm2(engine.common(contacts[island.layerIndex], island.region))),
  }
}

/** Growth of layers by the side gap, made when first asked for; equal layers share it. */
function growCache(layers: readonly Layer[], engine: PolygonEngine, sideGapMm: number): (index: number) => Region {
  const made: (Region | undefined)[] = []
  return (index) => {
    const known = made[index]
    if (known) return known
    const same = [index - 1, index + 1].find((other) => layers[other]?.region === layers[index].region && made[other])
    return (made[index] = same === undefined ? engine.grow(engine.thin(layers[index].region, PATH_TOLERANCE_MM), sideGapMm, 'round', ARC_MM) : made[same]!)
  }
}

/** What can be held of everything that should be. */
async function contactsOf(
  layers: readonly Layer[],
  overhangs: Overhangs,
  engine: PolygonEngine,
  options: StandOptions,
  grown: (index: number) => Region,
  recede: number,
  checkpoint?: Checkpoint,
): Promise<Region[]> {
  const contacts: Region[] = new Array<Region>(layers.length).fill(EMPTY_REGION)
  let shadow: Region = EMPTY_REGION
  let shadowUpTo = -1
  for (let i = 1; i < layers.length; i++) {
    if (checkpoint && i % 8 === 0) await checkpoint(i, 2 * layers.length)
    const hold = overhangs.hold[i]
    if (isEmptyRegion(hold)) continue
    const deep = i - 1 - recede
    if (options.placement === 'anywhere') contacts[i] = deep >= 0 ? engine.minus(hold, grown(deep)) : hold
    else {
      for (; shadowUpTo < deep; shadowUpTo++) {
        const next = layers[shadowUpTo + 1].region
        if (shadowUpTo < 0 || next !== layers[shadowUpTo].region) shadow = engine.union(shadow, next)
      }
      contacts[i] = deep >= 0 ? engine.minus(hold, engine.grow(shadow, options.sideGapMm, 'round', ARC_MM)) : hold
    }
    if (regionAreaMm2(contacts[i]) < 1e-4) contacts[i] = EMPTY_REGION
  }
  return contacts
}
