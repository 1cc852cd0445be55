import { firstFrom } from '../firstFrom'
import type { Holding, PlanDocument } from '../decide'
import type { Overhangs, Patch } from '../overhang'
import { interfaceApartMm, type createCoverMeasurer } from '../path'
import { regionAreaMm2, wereApart, type PolygonEngine, type Region } from '../polygon'
import type { Held, Supports, UnheldReason } from '../stand'
import type { HoldingGroup } from './assign'
import type { Contact, IslandReport, PlanGeometry } from './planResult'
import { holdingOf } from './planPrint'
import { laidAs } from './stages'

/** Plastic that ends within this of the height asked for counts as holding at its gap. */
const AT_ITS_GAP_MM = 0.02
/** A fifth of an island under its first layer is enough to lay the next one on. */
const ISLAND_SHARE = 0.2

export type HeldInput = {
  readonly engine: PolygonEngine
  readonly document: PlanDocument
  readonly overhangs: Overhangs
  readonly groups: readonly HoldingGroup[]
  readonly supports: Supports
  readonly geometry: Pick<PlanGeometry, 'layers' | 'passes' | 'supportPaths'>
  readonly cover: ReturnType<typeof createCoverMeasurer>
}

type Laid = {
  /** Area of a region that has plastic below it, ending at a height. */
  coveredMm2(region: Region, topMm: number, holding: Holding): number
  /** What of a region has nothing of the kind below it. */
  without(region: Region, topMm: number, engine: PolygonEngine): Region
}

/** What holds each underside, counted from the lines that are laid below it. */
export function contactsOf(input: HeldInput): Contact[] {
  const { document, overhangs, groups, supports } = input
  const laid = laidIn(input)
  // Posts hold whatever they stand under, whichever sentence rules it.
  const byHand = groups.findIndex(({ kind }) => kind === 'posts')
  const besides = [supports.drawn, ...(byHand < 0 ? [] : [supports.held[byHand]])]
  const contacts: Contact[] = []
  for (const group of groups) {
    const holding = holdingOf(document, group)
    const heldBy = supports.held[group.index]
    for (const [id, steps] of group.patches)
      contacts.push(contactOf(overhangs.patches[id], steps, group, holding, heldBy, besides, input, laid))
  }
  return contacts.sort((a, b) => a.zMm - b.zMm || a.topMm - b.topMm)
}

function contactOf(
  patch: Patch,
  steps: ReadonlyMap<number, Region>,
  group: HoldingGroup,
  holding: Holding,
  heldBy: ReadonlyMap<number, Held>,
  besides: readonly ReadonlyMap<number, Held>[],
  { engine, geometry: { layers } }: Pick<HeldInput, 'engine' | 'geometry'>,
  laid: Laid,
): Contact {
  const unheld: { -readonly [R in UnheldReason]?: number } = {}
  const add = (why: UnheldReason, mm2: number) => {
    if (mm2 > 1e-3) unheld[why] = (unheld[why] ?? 0) + mm2
  }
  let [wantedMm2, areaMm2] = [0, 0]
  /** What of it each of those that hold it carries, and where it begins to. */
  const carrying = [...besides, heldBy].map(() => ({ mm2: 0, held: null as Held | null, index: 0 }))
  for (const [index, step] of steps) {
    const own = regionAreaMm2(step)
    wantedMm2 += own
    let left = own
    // A layer that ends lower may have others upon it, and so holds only where nothing ends higher.
    let rest = step
    for (const { n, held, isLast } of fromTheTop([...besides, heldBy].map((of) => of.get(index)))) {
      const plastic = Math.min(left, laid.coveredMm2(rest, held.topMm, holding))
      areaMm2 += plastic
      left -= plastic
      const carried = carrying[n]
      if (plastic > 0 && carried.held === null) Object.assign(carried, { held, index })
      carried.mm2 += plastic
      if (!isLast) rest = laid.without(rest, held.topMm, engine)
    }
    const ownHeld = heldBy.get(index)
    if (!holding.supports) add('left free', left)
    else if (ownHeld) {
      // Reasons are known per layer; each underside of it has its share.
      const share = own / Math.max(own, regionAreaMm2(ownHeld.wanted))
      for (const [why, mm2] of Object.entries(ownHeld.unheldMm2) as [UnheldReason, number][]) {
        const part = Math.min(left, mm2 * share)
        add(why, part)
        left -= part
      }
      add('too narrow', left)
    } else add('no way down', left)
  }
  const [lowest, step] = [...steps][0]
  // Told is the gap of what holds most of it.
  const { held: first, index: firstIndex } = carrying.reduce((a, b) => (b.mm2 > a.mm2 ? b : a))
  return {
    zMm: layers[lowest].bottomMm,
    topMm: layers[[...steps.keys()].at(-1)!].bottomMm,
    patch: patch.id,
    kind: patch.kind,
    access: patch.access,
    holding: group.index,
    wantedMm2,
    areaMm2,
    unheldMm2: unheld,
    // A post keeps the letter's, whichever sentence rules what it stands under.
    gapMm: first?.drawn ? first.achievedGapMm : (first?.gapMm ?? holding.upperGapMm),
    achievedGapMm: first?.achievedGapMm ?? null,
    why: first?.why ?? null,
    layerIndex: first ? firstIndex : lowest,
    atMm: [step.xyMm[0], step.xyMm[1]],
    stack: first?.stack ?? [],
  }
}

/** What holds an underside, the highest first; of several that end at one height the first alone. */
function fromTheTop(all: readonly (Held | undefined)[]) {
  const found: { readonly n: number; readonly held: Held }[] = []
  for (const [n, held] of all.entries())
    if (held && !found.some((one) => Math.abs(one.held.topMm - held.topMm) < 2 * AT_ITS_GAP_MM))
      found.push({ n, held })
  return found
    .sort((a, b) => b.held.topMm - a.held.topMm)
    .map((one, i) => ({ ...one, isLast: i === found.length - 1 }))
}

/** What of stands and interface ends at a height below a region. */
function laidIn({ document, geometry: { passes, supportPaths }, cover }: HeldInput): Laid {
  const tops = Float64Array.from(passes, ({ topMm }) => topMm)
  const w = document.decisions.lineWidthMm
  /** Indices of passes. */
  const below = (region: Region, topMm: number) => {
    const found: number[] = []
    for (
      let i = firstFrom(tops, topMm - AT_ITS_GAP_MM);
      i < tops.length && tops[i] <= topMm + AT_ITS_GAP_MM;
      i++
    ) {
      if (passes[i].role !== 'interface' && passes[i].role !== 'stand') continue
      // What lies elsewhere at this height may change without this being asked again.
      if (!wereApart(region, passes[i].region)) found.push(i)
    }
    return found
  }
  return {
    without(region, topMm, engine) {
      const away = below(region, topMm).map((i) => passes[i].region)
      return away.length === 0 ? region : engine.minusAll([region], away)
    },
    coveredMm2(region, topMm, holding) {
      const found = below(region, topMm)
      if (found.length === 0) return 0
      const isInterface = found.map((i) => passes[i].role === 'interface')
      const laid = laidAs(holding, document.decisions)
      const apartMm = interfaceApartMm({ ...laid, lineWidthMm: w })
      // Lines that are laid apart on purpose hold what is between them. Where stands hold by themselves, what
      // is interface at this height begins on the part.
      const touches = holding.interfaceLayers > 0 && isInterface.includes(true)
      const reachesMm = isInterface.map((one) => (one || touches ? apartMm : w / laid.standDensity - w) / 2)
      const [lines, filled] = [found.map((i) => supportPaths[i]), found.map((i) => passes[i].region)]
      return cover(region, lines, w, reachesMm, filled)
    },
  }
}

/** What becomes of each island. */
export function islandsOf(input: HeldInput): IslandReport[] {
  const { document, overhangs, groups, supports } = input
  const laid = laidIn(input)
  return overhangs.islands.map(({ zMm, areaMm2, layerIndex, atMm, keptOffBy, region }) => {
    let mm2 = 0
    for (const group of groups)
      for (const held of [supports.drawn.get(layerIndex), supports.held[group.index].get(layerIndex)]) {
        if (!held) continue
        mm2 = Math.max(mm2, laid.coveredMm2(region, held.topMm, holdingOf(document, group)))
      }
    return { zMm, areaMm2, held: mm2 > ISLAND_SHARE * areaMm2, layerIndex, atMm, keptOffBy }
  })
}
