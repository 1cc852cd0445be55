import { clingGuess, filamentOf, thicknessOf } from '../bench'
import { estimate, speedsOf, type Role, type Use } from '../estimate'
import type { MeshFacts } from '../mesh'
import type { Overhangs } from '../overhang'
import { orderSwaps, type createSweepMeasurer, type ToolPaths } from '../path'
import { isEmptyRegion, regionAreaMm2 } from '../polygon'
import { releaseChain } from '../release'
import type { Slices } from '../slice'
import type { Stack } from '../stack'
import type { Stands, SupportPasses } from '../stand'
import { SAME_HEIGHT_MM } from '../tolerances'
import type { PlanDocument } from './decisions'
import type { Contact, IslandReport, PlanSummary, PlanWarning, Ribbon } from './planResult'
import { tenderFromEvidence } from './suggest'

export type Made = {
  readonly document: PlanDocument
  readonly facts: MeshFacts
  readonly slices: Slices
  readonly overhangs: Overhangs
  readonly stands: Stands
  readonly support: SupportPasses
  readonly partPaths: readonly ToolPaths[]
  readonly supportPaths: readonly ToolPaths[]
  readonly measure: ReturnType<typeof createSweepMeasurer>
}

/** One sweep over the bed in one filament. */
type Sweep = { readonly topMm: number; readonly role: Role; readonly filament: string; readonly mm3: number; readonly timeS: number }

/** Adds a plan up: what it holds, what it uses, how long it takes, what to mind. */
export function summarise(made: Made): PlanSummary {
  const { document, slices } = made
  const sweeps = measureSweeps(made)
  const heights = groupByHeight(sweeps)
  const names = [...new Set(sweeps.map((sweep) => sweep.filament))]
  const { order, swaps } = orderSwaps(heights.map((group) => [...new Set(group.map((sweep) => names.indexOf(sweep.filament)))]))

  const { printer, decisions } = document
  const uses: Use[] = sweeps.map(({ role, filament, mm3 }) => ({ role, filament, mm3 }))
  const swapsAt = new Uint8Array(heights.length)
  let loaded = order[0]?.[0]
  order.forEach((sequence, at) => {
    for (const filament of sequence) {
      if (filament === loaded) continue
      loaded = filament
      swapsAt[at]++
      uses.push({ role: 'purge', filament: names[filament], mm3: decisions.purgeMm3 })
    }
  })
  const swapTimeS = swaps * (printer.swapS + decisions.purgeMm3 / printer.purgeMm3S)
  const ribbon = ribbonOf(heights, swapsAt, printer.minLayerS)
  const contacts = contactsOf(made)
  const islands = islandsOf(made)
  const totals = estimate(uses, document.filaments)
  return {
    part: made.facts,
    layers: slices.layers.length,
    heightMm: slices.layers.at(-1)!.topMm,
    contacts,
    islands,
    bridges: made.overhangs.bridges,
    swaps,
    swapLayers: swapsAt.reduce((sum, count) => sum + (count > 0 ? 1 : 0), 0),
    estimate: totals,
    timeS: ribbon.timeS.reduce((a, b) => a + b, 0) + swapTimeS,
    swapTimeS,
    hangingMm2: made.overhangs.patches.reduce((sum, patch) => sum + patch.areaMm2, 0),
    pTender: contacts.length > 0 && decisions.supports ? tenderFromEvidence(document.evidence.upperGapMm, contacts[0].achievedGapMm) : null,
    ribbon,
    warnings: warningsOf(made, contacts, islands, totals),
  }
}

function measureSweeps({ document, slices, support, partPaths, supportPaths, measure }: Made): Sweep[] {
  const { printer, decisions } = document
  const width = decisions.lineWidthMm
  const filaments: Record<'part' | 'stand' | 'interface' | 'footing', string> = {
    part: decisions.partFilament,
    stand: decisions.standFilament,
    interface: decisions.interfaceFilament,
    footing: decisions.standFilament,
  }
  const motions = [true, false].map((firstLayer) => ({ speedsMmS: speedsOf(printer, firstLayer), ...printer }))
  const sweep = (paths: ToolPaths, role: keyof typeof filaments, bottomMm: number, topMm: number): Sweep => {
    const { lengthMm, timeS } = measure(paths, bottomMm === 0 ? motions[0] : motions[1])
    return { topMm, role, filament: filaments[role], mm3: lengthMm * width * (topMm - bottomMm), timeS }
  }
  const sweeps: Sweep[] = []
  slices.layers.forEach((layer, i) => {
    if (!isEmptyRegion(layer.region)) sweeps.push(sweep(partPaths[i], 'part', layer.bottomMm, layer.topMm))
  })
  support.passes.forEach((pass, i) => sweeps.push(sweep(supportPaths[i], pass.role, pass.bottomMm, pass.topMm)))
  return sweeps.sort((a, b) => a.topMm - b.topMm)
}

function groupByHeight(sweeps: readonly Sweep[]): Sweep[][] {
  const groups: Sweep[][] = []
  for (const sweep of sweeps) {
    const last = groups.at(-1)
    if (last && sweep.topMm - last[0].topMm < SAME_HEIGHT_MM) last.push(sweep)
    else groups.push([sweep])
  }
  return groups
}

function ribbonOf(heights: readonly Sweep[][], swaps: Uint8Array, minLayerS: number): Ribbon {
  const of = (roles: readonly Role[]) => Float64Array.from(heights, (group) => group.reduce((sum, sweep) => sum + (roles.includes(sweep.role) ? sweep.mm3 : 0), 0))
  return {
    zMm: Float64Array.from(heights, (group) => group[0].topMm),
    partMm3: of(['part']),
    standMm3: of(['stand', 'footing']),
    interfaceMm3: of(['interface']),
    swaps,
    timeS: Float64Array.from(heights, (group) =>
      Math.max(
        minLayerS,
        group.reduce((sum, sweep) => sum + sweep.timeS, 0),
      ),
    ),
  }
}

/** Whether a stack has any layer at all; right above the bed there may be no room for one. */
const holds = (stack: Stack | undefined): boolean => stack !== undefined && (stack.interface.length > 0 || stack.standTopMm > 0)

function contactsOf({ document, overhangs, stands, support, slices }: Made): Contact[] {
  const gapMm = document.decisions.upperGapMm
  const contacts: Contact[] = []
  for (const patch of overhangs.patches) {
    let held = 0
    let first: number | null = null
    for (const [index, share] of stands.heldMm2[patch.id]) {
      if (share > 0 && (holds(support.stacks.get(index)) || stands.drawn.has(index))) {
        held += share
        first ??= index
      }
    }
    const [lowest, step] = [...patch.steps][0]
    const index = first ?? lowest
    const stack = support.stacks.get(index)
    const at: [number, number] = [step.xyMm[0], step.xyMm[1]]
    const last = slices.layers.filter((layer) => stack && layer.topMm <= stack.standTopMm + SAME_HEIGHT_MM).slice(-3)
    contacts.push({
      zMm: slices.layers[lowest].bottomMm,
      topMm: slices.layers[[...patch.steps.keys()].at(-1)!].bottomMm,
      kind: patch.kind,
      access: patch.access,
      wantedMm2: patch.areaMm2,
      areaMm2: Math.min(held, patch.areaMm2),
      gapMm,
      achievedGapMm: held > 0 && stack ? stack.achievedGapMm : 0,
      why: held > 0 && stack ? stack.why : null,
      layerIndex: index,
      atMm: at,
      stack: held > 0 && stack ? [...last.map(({ bottomMm, topMm }) => ({ role: 'stand' as const, bottomMm, topMm })), ...stack.interface.map((one) => ({ role: 'interface' as const, ...one }))] : [],
    })
  }
  return contacts
}

function islandsOf({ overhangs, stands, support }: Made): IslandReport[] {
  return overhangs.islands.map((island, i) => {
    // A fifth of an island under its first layer is enough to lay the next one on.
    const held = (holds(support.stacks.get(island.layerIndex)) || stands.drawn.has(island.layerIndex)) && stands.islandHeldMm2[i] > 0.2 * island.areaMm2
    return { zMm: island.zMm, areaMm2: island.areaMm2, held, layerIndex: island.layerIndex, atMm: island.atMm, keptOffBy: island.keptOffBy }
  })
}

function warningsOf(made: Made, contacts: readonly Contact[], islands: readonly IslandReport[], totals: ReturnType<typeof estimate>): PlanWarning[] {
  const { document, facts, slices, support } = made
  const { decisions: d, printer, filaments } = document
  const found: PlanWarning[] = []
  const say = (code: PlanWarning['code'], severity: PlanWarning['severity'], message: string) => found.push({ code, severity, message })
  const mm = (value: number) => `${Number(value.toFixed(2))} mm`

  if (!facts.watertight)
    say('MESH_OPEN', 'warning', `The mesh has ${facts.openEdges} open edges; ${slices.mendedOutlines} loose outline ends were joined to slice it. Look through the layers before printing.`)
  const loose = islands.filter((island) => !island.held)
  if (!d.supports && (contacts.length > 0 || islands.length > 0))
    say(
      'SUPPORTS_OFF',
      'error',
      `Supports are switched off, yet ${contacts.length} undersides lean past ${d.freeAngleDeg}°${islands.length > 0 ? ` and ${islands.length} islands start in mid-air` : ''}.`,
    )
  else if (loose.length > 0)
    say(
      'ISLAND_NOT_HELD',
      'error',
      `${loose.length} of ${islands.length} islands ${loose.length === 1 ? 'starts' : 'start'} in mid-air, the first at ${mm(loose[0].zMm)}.${loose[0].keptOffBy ? ` The keep-off zone “${loose[0].keptOffBy}” leaves it so.` : ''}${d.placement === 'bed' ? ' Letting stands rest on the part would reach more.' : ''}`,
    )
  const wanted = contacts.reduce((sum, contact) => sum + contact.wantedMm2, 0)
  const held = contacts.reduce((sum, contact) => sum + contact.areaMm2, 0)
  if (d.supports && wanted > 0 && held < 0.9 * wanted)
    say(
      'OVERHANG_NOT_HELD',
      'warning',
      `${Math.round(wanted - held)} of ${Math.round(wanted)} mm² that lean past ${d.freeAngleDeg}° stay free.${d.placement === 'bed' ? ' Stands may only rest on the bed.' : ''}`,
    )
  const missed = contacts.find((contact) => contact.areaMm2 > 0 && Math.abs(contact.achievedGapMm - contact.gapMm) > SAME_HEIGHT_MM)
  if (missed) say('GAP_MISSED', 'warning', `The gap of ${mm(missed.gapMm)} comes out as ${mm(missed.achievedGapMm)}. ${missed.why ?? ''}`.trim())

  if (contacts.some((contact) => contact.areaMm2 > 0)) {
    const [part, touching, bulk] = [d.partFilament, d.interfaceFilament, d.standFilament].map((name) => filamentOf(filaments, name))
    const toPart = clingGuess(part.family, touching.family).cling
    if (toPart >= 3 && d.upperGapMm < 0.05) say('WELDED_PAIR', 'error', `${touching.name} welds to ${part.name}; with a gap of ${mm(d.upperGapMm)} they become one piece.`)
    const footprintMm2 = support.passes.filter((pass) => pass.bottomMm === 0).reduce((sum, pass) => sum + regionAreaMm2(pass.region), 0)
    const chain = releaseChain({ ...d, part, touching, bulk, contactMm2: held, footprintMm2 })
    if (touching.name !== bulk.name && chain.interfaceFollows !== 'surely') {
      const cure = chain.remedies.find((remedy) => remedy.cures)
      say('INTERFACE_MAY_STAY', 'warning', `${chain.sentence}${cure ? ` What would do: ${cure.sentence.charAt(0).toLowerCase()}${cure.sentence.slice(1)}` : ''}`)
    }
  }
  const loaded = new Set([d.partFilament, ...(contacts.some((contact) => contact.areaMm2 > 0) ? [d.standFilament, d.interfaceFilament] : [])])
  if (loaded.size > printer.loads) say('TOO_MANY_FILAMENTS', 'error', `The plan prints in ${loaded.size} filaments; ${printer.name} holds ${printer.loads} at once.`)
  const box = facts.sizeMm
  if (box[0] > printer.bedMm[0] || box[1] > printer.bedMm[1])
    say('OUTSIDE_BED', 'error', `The part is ${mm(box[0])} by ${mm(box[1])}; the bed of ${printer.name} is ${mm(printer.bedMm[0])} by ${mm(printer.bedMm[1])}.`)
  if (box[2] > printer.heightMm) say('TOO_TALL', 'error', `The part is ${mm(box[2])} tall; ${printer.name} reaches ${mm(printer.heightMm)}.`)
  const [thinnest, thickest] = thicknessOf(printer)
  if (d.layerHeightMm < thinnest - 1e-9 || d.layerHeightMm > thickest + 1e-9)
    say('LAYER_OUT_OF_RANGE', 'warning', `A ${printer.nozzleMm} mm nozzle lays ${mm(thinnest)} to ${mm(thickest)}; the plan asks for ${mm(d.layerHeightMm)}.`)
  for (const use of totals.filaments)
    if (use.gramsLeft !== null && use.g > use.gramsLeft) say('SPOOL_SHORT', 'error', `${use.name}: ${Math.round(use.gramsLeft)} g left, ${use.g.toFixed(1)} g needed.`)
  return found
}
