import type { Holding, PlanDocument } from '../decide'
import type { Overhangs, Patch } from '../overhang'
import { interfaceApartMm, type createCoverMeasurer, type ToolPaths } from '../path'
import { regionAreaMm2, wereApart, type Region } from '../polygon'
import type { Layer } from '../slice'
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
  readonly document: PlanDocument
  readonly overhangs: Overhangs
  readonly groups: readonly HoldingGroup[]
  readonly supports: Supports
  readonly geometry: Pick<PlanGeometry, 'layers' | 'passes' | 'supportPaths'>
  readonly cover: ReturnType<typeof createCoverMeasurer>
}

type Cover = (region: Region, topMm: number, holding: Holding) => number

/** What holds each underside, counted from the lines that are laid below it. */
export function contactsOf(input: HeldInput): Contact[] {
  const { document, overhangs, groups, supports, geometry } = input
  const covered = coverOf(input)
  // Posts hold whatever they stand under, whichever sentence rules it.
  const byHand = groups.findIndex(({ kind }) => kind === 'posts')
  const besides = [supports.drawn, ...(byHand < 0 ? [] : [supports.held[byHand]])]
  const contacts: Contact[] = []
  for (const group of groups) {
    const holding = holdingOf(document, group)
    const heldBy = supports.held[group.index]
    for (const [id, steps] of group.patches)
      contacts.push(
        contactOf(overhangs.patches[id], steps, group, holding, heldBy, besides, geometry.layers, covered),
      )
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
  layers: readonly Layer[],
  covered: Cover,
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
    // What ends at one height is counted there together, whoever put it there.
    const counted: number[] = []
    for (const [n, held] of [...besides, heldBy].map((of) => of.get(index)).entries()) {
      if (!held || counted.some((topMm) => Math.abs(topMm - held.topMm) < 2 * AT_ITS_GAP_MM)) continue
      counted.push(held.topMm)
      const plastic = Math.min(left, covered(step, held.topMm, holding))
      areaMm2 += plastic
      left -= plastic
      const carried = carrying[n]
      if (plastic > 0 && carried.held === null) Object.assign(carried, { held, index })
      carried.mm2 += plastic
    }
    const held = heldBy.get(index)
    if (!holding.supports) add('left free', left)
    else if (held) {
      // Reasons are known per layer; each underside of it has its share.
      const share = own / Math.max(own, regionAreaMm2(held.wanted))
      for (const [why, mm2] of Object.entries(held.unheldMm2) as [UnheldReason, number][]) {
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
    gapMm: first?.drawn ? first.achievedGapMm : holding.upperGapMm,
    achievedGapMm: first?.achievedGapMm ?? null,
    why: first?.why ?? null,
    layerIndex: first ? firstIndex : lowest,
    atMm: [step.xyMm[0], step.xyMm[1]],
    stack: first?.stack ?? [],
  }
}

/** Area of a region that has plastic below it, ending at a height. */
function coverOf({ document, geometry: { passes, supportPaths }, cover }: HeldInput): Cover {
  const tops = Float64Array.from(passes, ({ topMm }) => topMm)
  const w = document.decisions.lineWidthMm
  return (region, topMm, holding) => {
    const lines: ToolPaths[] = []
    const filled: Region[] = []
    const isInterface: boolean[] = []
    for (
      let i = firstFrom(tops, topMm - AT_ITS_GAP_MM);
      i < tops.length && tops[i] <= topMm + AT_ITS_GAP_MM;
      i++
    ) {
      if (passes[i].role !== 'interface' && passes[i].role !== 'stand') continue
      // What lies elsewhere at this height may change without this being asked again.
      if (wereApart(region, passes[i].region)) continue
      lines.push(supportPaths[i])
      filled.push(passes[i].region)
      isInterface.push(passes[i].role === 'interface')
    }
    if (lines.length === 0) return 0
    const laid = laidAs(holding, document.decisions)
    const apartMm = interfaceApartMm({ ...laid, lineWidthMm: w })
    // Lines that are laid apart on purpose hold what is between them. Where stands hold by themselves, what
    // is interface at this height begins on the part.
    const touches = holding.interfaceLayers > 0 && isInterface.includes(true)
    const reachesMm = isInterface.map((one) => (one || touches ? apartMm : w / laid.standDensity - w) / 2)
    return cover(region, lines, w, reachesMm, filled)
  }
}

/** Index of the first of ascending numbers that is not below a limit. */
function firstFrom(numbers: Float64Array, limit: number): number {
  let [low, high] = [0, numbers.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (numbers[middle] < limit) low = middle + 1
    else high = middle
  }
  return low
}

/** What becomes of each island. */
export function islandsOf(input: HeldInput): IslandReport[] {
  const { document, overhangs, groups, supports } = input
  const covered = coverOf(input)
  return overhangs.islands.map(({ zMm, areaMm2, layerIndex, atMm, keptOffBy, region }) => {
    let mm2 = 0
    for (const group of groups)
      for (const held of [supports.drawn.get(layerIndex), supports.held[group.index].get(layerIndex)]) {
        if (!held) continue
        mm2 = Math.max(mm2, covered(region, held.topMm, holdingOf(document, group)))
      }
    return { zMm, areaMm2, held: mm2 > ISLAND_SHARE * areaMm2, layerIndex, atMm, keptOffBy }
  })
}
