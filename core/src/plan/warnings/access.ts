import {
  NARROW_MM,
  NO_TOOL_MM,
  SPECK_MM3,
  tornTimes,
  weakNecks,
  type NeckBeside,
  type StandPiece,
} from '../../release'
import { dissolvesAll } from '../dissolvesAll'
import { mm } from '../inWords'
import { holdingOf } from '../planPrint'
import { gridOf, touchingOf, type TouchingOfPlan } from '../release'
import { leftFree, weaker } from '../remedies'
import { heldBy, place } from './pieces'
import { steadyWarnings } from './steady'
import { error, warning, type PlanWarning, type Warned } from './warning'

/** What a narrow opening matters for. */
const SOME_SIZE_MM3 = 1500
/** Rough openings under this may be shut. */
const IN_DOUBT_MM = 5

/**
 * Supports that cannot be got at, stands too slender to stand, and what of the part taking them off may
 * break.
 */
export function accessWarnings(warned: Warned): PlanWarning[] {
  const { document, geometry, groups, contacts } = warned
  const pieces = (gridOf(geometry)?.pieces ?? []).filter(({ grossMm3 }) => grossMm3 >= SPECK_MM3)
  const necks = weakNecks(geometry.layers, touchingOf(document, groups, contacts))
  return [...lockedIn(document, pieces, contacts), ...steadyWarnings(warned), ...weakNeck(necks, warned)]
}

function weakNeck(
  necks: ReadonlyMap<TouchingOfPlan, NeckBeside>,
  { document, groups }: Pick<Warned, 'document' | 'groups'>,
): PlanWarning[] {
  const all = [...necks].map(([touching, neck]) => ({ touching, neck, times: tornTimes(touching, neck) }))
  if (all.length === 0) return []
  const { touching, neck } = all.reduce((a, b) => (b.neck.areaMm2 < a.neck.areaMm2 ? b : a))
  const alike = all.flatMap(({ touching: { contact }, times }) =>
    contact.holding === touching.contact.holding ? [{ contact, times }] : [],
  )
  const more =
    all.length === 1 ? '' : ` So may ${all.length - 1} more ${all.length === 2 ? 'place' : 'places'}.`
  return [
    warning(
      'WEAK_NECK',
      `${Math.round(touching.areaMm2)} mm² of support pull at a neck of the part ${neck.widthMm.toFixed(1)} mm wide, at ${mm(neck.zMm)}: by the clings of the families, a guess, it may break first.${more} Hold the part ${neck.side} it while you pull, or weaken that contact.`,
      {
        atMm: [touching.atMm[0], touching.atMm[1], neck.zMm],
        remedies: weaker(document, alike, holdingOf(document, groups[touching.contact.holding])),
      },
    ),
  ]
}

function lockedIn(
  document: Warned['document'],
  pieces: readonly StandPiece[],
  contacts: Warned['contacts'],
): PlanWarning[] {
  const dissolves = dissolvesAll(document)
  const closed: StandPiece[] = []
  const narrow: StandPiece[] = []
  for (const piece of pieces) {
    const mattersNarrow = piece.grossMm3 > SOME_SIZE_MM3 && !dissolves
    const openMm = openingOf(piece, mattersNarrow ? NARROW_MM : IN_DOUBT_MM)
    if (openMm < NO_TOOL_MM) closed.push(piece)
    else if (openMm < NARROW_MM && mattersNarrow) narrow.push(piece)
  }
  const found: PlanWarning[] = []
  if (closed.length > 0) {
    const most = largest(closed)
    found.push(
      error(
        'LOCKED_IN',
        `${counted(closed)} of support ${closed.length === 1 ? 'is' : 'are'} locked in, ${volume(most)} around ${place(most)}: ${most.openingMm > 0 && dissolves ? 'liquid gets in through a crack only' : 'nothing gets in there'}. Leave it free, cut the part, or open it.`,
        { atMm: [...most.atMm], remedies: leftFree(document, heldBy(most, contacts)) },
      ),
    )
  }
  if (narrow.length > 0) {
    const most = largest(narrow)
    found.push(
      warning(
        'LOCKED_IN',
        `${volume(most)} of support around ${place(most)} must come out through an opening about ${Math.round(most.openingMm)} mm wide, in pieces. A filament that dissolves, another pose or a wider opening would spare that.`,
        { atMm: [...most.atMm] },
      ),
    )
  }
  return found
}

/** A plan does not wait for what the release check looks at closely, unless a stand may be locked in. */
function openingOf(piece: StandPiece, enoughMm: number): number {
  const roughMm = piece.roughOpeningMm(enoughMm)
  if (roughMm >= IN_DOUBT_MM) return roughMm
  const { seenOpeningMm } = piece
  return seenOpeningMm < NO_TOOL_MM ? piece.openingMm : seenOpeningMm
}

const largest = (pieces: readonly StandPiece[]) => pieces.reduce((a, b) => (b.grossMm3 > a.grossMm3 ? b : a))
const counted = (pieces: readonly StandPiece[]) =>
  pieces.length === 1 ? 'One piece' : `${pieces.length} pieces`
const volume = ({ grossMm3 }: StandPiece) => `${Number((grossMm3 / 1000).toPrecision(2))} cm³`
