import { filamentOf } from '../../bench'
import { bookOf, DECISION_RANGES, type Exception, type Holding } from '../../decide'
import { bondToPart, NO_TOOL_MM, SPECK_MM3, weakNecks, type StandPiece, type Touching } from '../../release'
import { holdingOf } from '../planPrint'
import type { Contact } from '../planResult'
import { dissolvesAll, gridOf, touchingOf } from '../release'
import { heldBy, place } from './pieces'
import { steadyWarnings } from './steady'
import { error, gapMm, mm, warning, type PlanRemedy, type PlanWarning, type Warned } from './warning'

/** Through less than this a stand of some size only comes out in pieces. */
const NARROW_MM = 10
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
  return [
    ...lockedIn(document, pieces, contacts),
    ...steadyWarnings(warned),
    ...weakNeck(necks, { document, groups, contacts }),
  ]
}

function weakNeck(
  necks: ReturnType<typeof weakNecks>,
  { document, groups, contacts }: Pick<Warned, 'document' | 'groups' | 'contacts'>,
): PlanWarning[] {
  const all = [...necks].flatMap(([touching, neck]) => {
    const [x, y, z] = touching.atMm
    const contact = contacts.find(({ atMm, zMm }) => atMm[0] === x && atMm[1] === y && zMm === z)
    return contact ? [{ touching, neck, contact }] : []
  })
  if (all.length === 0) return []
  const worst = all.reduce((a, b) => (b.neck.areaMm2 < a.neck.areaMm2 ? b : a))
  const { touching, neck } = worst
  const alike = all.filter(({ contact }) => contact.holding === worst.contact.holding)
  const more =
    all.length === 1 ? '' : ` So may ${all.length - 1} more ${all.length === 2 ? 'place' : 'places'}.`
  return [
    warning(
      'WEAK_NECK',
      `${Math.round(touching.areaMm2)} mm² of support pull at a neck of the part ${neck.widthMm.toFixed(1)} mm wide, at ${mm(neck.zMm)}: by the clings of the families, a guess, it may break first.${more} Hold the part ${neck.side} it while you pull, or weaken that contact.`,
      {
        atMm: [touching.atMm[0], touching.atMm[1], neck.zMm],
        remedies: weaker(document, alike, holdingOf(document, groups[worst.contact.holding])),
      },
    ),
  ]
}

type Weak = {
  readonly touching: Touching
  readonly neck: { readonly areaMm2: number }
  readonly contact: Contact
}

/** How much wider a gap is tried where a contact is too strong, in such steps, and how much at most. */
const WIDER_MM = 0.05
const STEP_MM = 0.01
const WIDEST_MM = 0.3
/** Interface lines are tried up to so many lines farther from each other. */
const APART_LINES = 4

/**
 * Ways to let contacts hold no more than their necks do, those first that are enough; what rules them already
 * goes on to.
 * @param holding the one they have in common
 */
function weaker(document: Warned['document'], weak: readonly Weak[], holding: Holding): PlanRemedy[] {
  const { filaments, decisions } = document
  const bond = {
    ...holding,
    part: filamentOf(filaments, decisions.partFilament),
    touching: filamentOf(filaments, holding.interfaceFilament),
    lineWidthMm: decisions.lineWidthMm,
    book: bookOf(document),
  }
  const most = Math.max(
    ...weak.map(({ touching: { areaMm2, strength }, neck }) => (areaMm2 * strength) / neck.areaMm2),
  )
  const isEnough = (values: Partial<Holding>) => most * bondToPart({ ...bond, ...values }) <= bondToPart(bond)
  const shared = holding.stackMode === 'shared'
  const [least, step] = shared ? [decisions.layerHeightMm, decisions.layerHeightMm] : [WIDER_MM, STEP_MM]
  const gaps = upTo(Math.max(least, WIDEST_MM), least, step)
    .map((by) => Number((holding.upperGapMm + by).toFixed(2)))
    .filter((gap) => gap <= DECISION_RANGES.upperGapMm[1])
  const spacings = upTo(APART_LINES, 1, 1)
    .map((n) => Number((holding.interfaceSpacingMm + n * decisions.lineWidthMm).toFixed(2)))
    .filter((spacing) => spacing <= DECISION_RANGES.interfaceSpacingMm[1])
  const wider = gaps.find((upperGapMm) => isEnough({ upperGapMm }))
  const sparser = spacings.find((interfaceSpacingMm) => isEnough({ interfaceSpacingMm }))
  const contacts = weak.map(({ contact }) => contact)
  const there = contacts.length === 1 ? ' there' : `, in those ${contacts.length} places`
  const remedies = [
    ...[wider ?? gaps[0]]
      .filter((gap) => gap !== undefined)
      .map((upperGapMm) => ({
        words: `leave ${gapMm(upperGapMm)} above${there}`,
        change: exceptionsFor(document, contacts, { upperGapMm }),
      })),
    ...[sparser ?? spacings[0]]
      .filter((one) => one !== undefined)
      .map((interfaceSpacingMm) => ({
        words: `interface lines ${mm(interfaceSpacingMm)} apart${there}`,
        change: exceptionsFor(document, contacts, { interfaceSpacingMm }),
      })),
  ]
  return sparser && !wider ? remedies.reverse() : remedies
}

/** Numbers from the first to a last, so far apart. */
const upTo = (last: number, first: number, step: number): number[] =>
  Array.from({ length: 1 + Math.floor((last - first) / step + 1e-6) }, (_, n) => first + n * step)

/** An exception for each of some undersides: as they are held now, but for these values. */
function exceptionsFor(
  { exceptions }: Warned['document'],
  contacts: readonly Contact[],
  values: Partial<Exception>,
): PlanRemedy['change'] {
  const changed = [...exceptions]
  for (const { atMm, zMm, holding } of contacts) {
    const ruling = exceptions[holding - 1]
    // One that is about this underside alone goes on to be.
    if (ruling && 'contact' in ruling.where) changed[holding - 1] = { ...ruling, ...values }
    else changed.push({ ...ruling, where: { contact: [...atMm, zMm] }, ...values })
  }
  return { exceptions: changed }
}

function lockedIn(
  document: Warned['document'],
  pieces: readonly StandPiece[],
  contacts: Warned['contacts'],
): PlanWarning[] {
  const closed = pieces.filter((piece) => openingOf(piece) < NO_TOOL_MM)
  const narrow = pieces.filter(
    (piece) =>
      openingOf(piece) >= NO_TOOL_MM && openingOf(piece) < NARROW_MM && piece.grossMm3 > SOME_SIZE_MM3,
  )
  const dissolves = dissolvesAll(document)
  const found: PlanWarning[] = []
  if (closed.length > 0) {
    const most = largest(closed)
    found.push(
      error(
        'LOCKED_IN',
        `${counted(closed)} of support ${closed.length === 1 ? 'is' : 'are'} locked in, ${volume(most)} around ${place(most)}: ${openingOf(most) > 0 && dissolves ? 'liquid gets in through a crack only' : 'nothing gets in there'}. Leave it free, cut the part, or open it.`,
        { atMm: [...most.atMm], remedies: leftFree(document, most, contacts) },
      ),
    )
  }
  if (narrow.length > 0 && !dissolves) {
    const most = largest(narrow)
    found.push(
      warning(
        'LOCKED_IN',
        `${volume(most)} of support around ${place(most)} must come out through an opening about ${Math.round(openingOf(most))} mm wide, in pieces. A filament that dissolves, another pose or a wider opening would spare that.`,
        { atMm: [...most.atMm] },
      ),
    )
  }
  return found
}

/** A plan does not wait for what the release check looks at closely, unless a stand may be locked in. */
const openingOf = (piece: StandPiece): number =>
  piece.roughOpeningMm < IN_DOUBT_MM ? piece.openingMm : piece.roughOpeningMm

/** What a piece holds, left free: underside for underside. */
function leftFree(
  document: Warned['document'],
  piece: StandPiece,
  contacts: Warned['contacts'],
): PlanRemedy[] {
  const own = heldBy(piece, contacts)
  if (own.length === 0) return []
  return [
    {
      words: own.length === 1 ? 'leave that underside free' : `leave ${own.length} undersides there free`,
      change: exceptionsFor(document, own, { supports: false }),
    },
  ]
}

const largest = (pieces: readonly StandPiece[]) => pieces.reduce((a, b) => (b.grossMm3 > a.grossMm3 ? b : a))
const counted = (pieces: readonly StandPiece[]) =>
  pieces.length === 1 ? 'One piece' : `${pieces.length} pieces`
const volume = ({ grossMm3 }: StandPiece) => `${Number((grossMm3 / 1000).toPrecision(2))} cm³`
