import { filamentOf } from '../bench'
import { bookOf, gapEvidenceUnder, pullFromEvidence, type PlanDocument } from '../decide'
import {
  bondToPart,
  releaseCheck,
  roomAround,
  SPECK_MM3,
  standGrid,
  steadinessOfStands,
  type Room,
  type StandGrid,
  type StandCheck,
  type StandPiece,
  type StandSeen,
  type StandVerdict,
  type Steadiness,
  type Touching,
} from '../release'
import { interfaceCover } from '../path'
import { regionAreaMm2, type PolygonEngine, type Region } from '../polygon'
import type { HoldingGroup } from './assign'
import { dissolvesAll } from './dissolvesAll'
import { plasticShare } from './plasticShare'
import { holdingOf } from './planPrint'
import type { Contact, PlanGeometry, PlanResult } from './planResult'
import { feetOf, remediesOfStand, type PlanRemedy } from './remedies'

/** A contact as far as taking off is concerned, and which it is. */
export type TouchingOfPlan = Touching & { readonly contact: Contact }

/** Contacts as far as taking off is concerned. */
export function touchingOf(
  document: PlanDocument,
  groups: readonly HoldingGroup[],
  contacts: readonly Contact[],
): TouchingOfPlan[] {
  const part = filamentOf(document.filaments, document.decisions.partFilament)
  const book = bookOf(document)
  return contacts.flatMap((contact) => {
    if (contact.areaMm2 === 0 || contact.achievedGapMm === null) return []
    const holding = holdingOf(document, groups[contact.holding])
    const touching = filamentOf(document.filaments, holding.interfaceFilament)
    const { lineWidthMm } = document.decisions
    return [
      {
        contact,
        atMm: [...contact.atMm, contact.zMm] as const,
        layerIndex: contact.layerIndex,
        underside: largestStep(groups[contact.holding].patches.get(contact.patch)),
        steps: groups[contact.holding].patches.get(contact.patch) ?? null,
        areaMm2: contact.areaMm2,
        pullN: pullFromEvidence(
          gapEvidenceUnder(document, contact.holding),
          contact.achievedGapMm,
          contact.areaMm2 * interfaceCover({ ...holding, lineWidthMm }),
        ),
        strength: bondToPart({
          part,
          touching,
          upperGapMm: contact.achievedGapMm,
          lineWidthMm,
          interfaceSpacingMm: holding.interfaceSpacingMm,
          interfaceLines: holding.interfaceLines,
          book,
        }),
      },
    ]
  })
}

/** The layer of an underside that has most of it. */
function largestStep(steps: ReadonlyMap<number, Region> | undefined): Touching['underside'] {
  let [largest, most]: [Touching['underside'], number] = [null, 0]
  for (const [layer, region] of steps ?? []) {
    const mm2 = regionAreaMm2(region)
    if (mm2 > most) [largest, most] = [{ layer, region }, mm2]
  }
  return largest
}

/** Grids by the passes they were made of: warnings and the check ask for the same one. */
const grids = new WeakMap<PlanGeometry['passes'], StandGrid | null>()

/** The room around a part, by its layers: other plans of them stand in the same one. */
const rooms = new WeakMap<PlanGeometry['layers'], Room>()

function roomIn(layers: PlanGeometry['layers']): Room {
  let room = rooms.get(layers)
  if (!room) rooms.set(layers, (room = roomAround(layers)))
  return room
}

/** Part and what comes off, stands and interface, on a grid. */
export function gridOf({ layers, passes }: Pick<PlanGeometry, 'layers' | 'passes'>): StandGrid | null {
  let grid = grids.get(passes)
  if (grid === undefined) {
    const off = passes.filter(({ role }) => role === 'stand' || role === 'interface')
    grids.set(passes, (grid = standGrid(layers, off, () => roomIn(layers))))
  }
  return grid
}

/**
 * How steady the stands of a plan are while it is printed: by their outlines, and by the density and walls
 * that fill them.
 */
export function steadinessIn(
  document: PlanDocument,
  groups: readonly HoldingGroup[],
  geometry: Pick<PlanGeometry, 'layers' | 'passes'>,
): ReadonlyMap<StandPiece, Steadiness> {
  const { lineWidthMm } = document.decisions
  const pieces = (gridOf(geometry)?.pieces ?? []).filter(({ grossMm3 }) => grossMm3 >= SPECK_MM3)
  return steadinessOfStands(pieces, geometry.passes, lineWidthMm, (section, holding) =>
    plasticShare(
      section,
      groups[holding] ? holdingOf(document, groups[holding]) : document.decisions,
      document.decisions,
    ),
  )
}

/** How one stand comes off, and what would put right what there is to mind about it. */
export type StandRelease = StandCheck & { readonly remedies: readonly PlanRemedy[] }
export type PlanRelease = { readonly verdict: StandVerdict; readonly stands: readonly StandRelease[] }

/**
 * How the stands of a plan come off. Takes about as long as slicing; the plan itself does not wait for it.
 * @param engine looks for arms of the part that a pull may break, and for remedies, as well
 * @param onShare is told how much is done, from 0 to 1
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function planRelease(
  document: PlanDocument,
  { geometry, groups, summary }: PlanResult,
  engine: PolygonEngine | null = null,
  onShare?: (share: number) => void,
): PlanRelease {
  const steadiness = steadinessIn(document, groups, geometry)
  const { verdict, stands } = releaseCheck(
    geometry.layers,
    gridOf(geometry),
    touchingOf(document, groups, summary.contacts),
    dissolvesAll(document),
    steadiness,
    engine,
    onShare,
  )
  const feetWith = engine && feetOf([...steadiness.values()], document, geometry.layers, engine)
  const remedies = (seen: StandSeen<TouchingOfPlan>) =>
    feetWith ? remediesOfStand(seen, document, groups, feetWith) : []
  return { verdict, stands: stands.map((seen) => ({ ...seen.check, remedies: remedies(seen) })) }
}
