import { gapEvidenceUnder, tenderFromEvidence, type PlanDocument } from '../decide'
import { estimate } from '../estimate'
import type { MeshFacts } from '../mesh'
import type { Overhangs } from '../overhang'
import type { createCoverMeasurer } from '../path'
import type { PolygonEngine } from '../polygon'
import { measurePrint, type createPathMeasurer, type Print } from '../print'
import type { Slices } from '../slice'
import type { Supports } from '../stand'
import { SAME_HEIGHT_MM } from '../tolerances'
import type { HoldingGroup } from './assign'
import { contactsOf, islandsOf } from './contacts'
import type { Contact, PlanGeometry, PlanSummary } from './planResult'
import { purgesOf } from './purges'
import { recutsOf } from './recut'
import { ribbonOf } from './ribbon'
import { standWidths } from './standDensity'
import { warningsOf } from './warnings'

export type Made = {
  readonly engine: PolygonEngine
  readonly document: PlanDocument
  readonly print: Print
  readonly facts: MeshFacts
  readonly slices: Slices
  readonly overhangs: Overhangs
  readonly groups: readonly HoldingGroup[]
  readonly supports: Supports
  readonly geometry: PlanGeometry
  readonly measure: ReturnType<typeof createPathMeasurer>
  readonly cover: ReturnType<typeof createCoverMeasurer>
}

/** Adds a plan up: what it holds, what it uses, how long it takes, what to mind. */
export function summarise(made: Made): PlanSummary {
  const { document, print, facts, slices, overhangs, groups, supports, geometry } = made
  const measured = measurePrint(print, document.printer, made.measure)
  const ribbon = ribbonOf(print, measured)
  const contacts = contactsOf(made)
  const islands = islandsOf(made)
  const totals = estimate(
    measured.uses.map(({ role, slot, mm3 }) => ({ role, filament: print.slots[slot].id, mm3 })),
    document.filaments,
  )
  const purges = purgesOf(print, document)
  const recuts = recutsOf(contacts, slices.layers)
  return {
    part: facts,
    layers: slices.layers.length,
    heightMm: slices.layers.at(-1)!.topMm,
    contacts,
    islands,
    bridges: overhangs.bridges,
    swaps: measured.swaps,
    swapLayers: ribbon.swaps.reduce((sum, count) => sum + (count > 0 ? 1 : 0), 0),
    estimate: totals,
    timeS: measured.timeS,
    swapTimeS: measured.swapTimeS,
    hangingMm2: overhangs.patches.reduce((sum, patch) => sum + patch.areaMm2, 0),
    pTender: tenderOf(document, contacts),
    ribbon,
    standWidthsMm: standWidths(supports.passes, groups),
    supportHeightsMm: heightsOf(supports),
    rests: supports.rests,
    recuts,
    purges,
    warnings: warningsOf({
      engine: made.engine,
      purges,
      document,
      facts,
      slices,
      contacts,
      groups,
      islands,
      rests: supports.rests,
      postsHeld: supports.held[groups.findIndex(({ kind }) => kind === 'posts')] ?? new Map(),
      geometry,
      totals,
    }),
  }
}

/**
 * Chance that an underside comes off well, by the readings of its pairing at the gap it really has; by area
 * where there are several.
 */
function tenderOf(document: PlanDocument, contacts: readonly Contact[]): number | null {
  if (!document.decisions.supports) return null
  let [sum, areas] = [0, 0]
  for (const { areaMm2, achievedGapMm, holding } of contacts) {
    if (achievedGapMm === null || areaMm2 === 0) continue
    const chance = tenderFromEvidence(gapEvidenceUnder(document, holding), achievedGapMm)
    if (chance === null) continue
    sum += chance * areaMm2
    areas += areaMm2
  }
  return areas > 0 ? sum / areas : null
}

/** Heights at which layers of supports end, from the bed upwards. */
function heightsOf({ passes }: Supports): Float64Array {
  const heights: number[] = []
  for (const { topMm } of passes)
    if (heights.length === 0 || topMm - heights.at(-1)! > SAME_HEIGHT_MM) heights.push(topMm)
  return Float64Array.from(heights)
}
