import { holdingUnder, type Exception, type Holding } from '../../decide'
import { NO_TOOL_MM, NOZZLE_PUSHES_N, SPECK_MM3, weakNecks, type StandPiece } from '../../release'
import { holdingOf } from '../planPrint'
import type { Contact } from '../planResult'
import { dissolvesAll, gridOf, steadinessIn, touchingOf } from '../release'
import { decide, error, gapMm, mm, warning, type PlanRemedy, type PlanWarning, type Warned } from './warning'

/** Through less than this a stand of some size only comes out in pieces. */
const NARROW_MM = 10
const SOME_SIZE_MM3 = 1500
/** Rough openings under this may be shut. */
const IN_DOUBT_MM = 5

/**
 * Supports that cannot be got at, stands too slender to stand, and what of the part taking them off may
 * break.
 */
export function accessWarnings({ document, geometry, groups, contacts }: Warned): PlanWarning[] {
  const pieces = (gridOf(geometry)?.pieces ?? []).filter(({ grossMm3 }) => grossMm3 >= SPECK_MM3)
  const necks = weakNecks(geometry.layers, touchingOf(document, groups, contacts))
  return [
    ...lockedIn(document, pieces, contacts),
    ...unsteady(document, pieces, steadinessIn(document, groups, geometry), contacts),
    ...weakNeck(necks, { document, groups, contacts }),
  ]
}

function weakNeck(
  necks: ReturnType<typeof weakNecks>,
  { document, groups, contacts }: Pick<Warned, 'document' | 'groups' | 'contacts'>,
): PlanWarning[] {
  if (necks.size === 0) return []
  const [contact, neck] = [...necks].reduce((a, b) => (b[1].areaMm2 < a[1].areaMm2 ? b : a))
  const [x, y, z] = contact.atMm
  const held = contacts.find(({ atMm, zMm }) => atMm[0] === x && atMm[1] === y && zMm === z)
  return [
    warning(
      'WEAK_NECK',
      `${Math.round(contact.areaMm2)} mm² of support pull at a neck of the part ${neck.widthMm.toFixed(1)} mm wide, at ${mm(neck.zMm)}: by the clings of the families, a guess, it may break first. Hold the part ${neck.side} it while you pull, or weaken that contact.`,
      {
        atMm: [contact.atMm[0], contact.atMm[1], neck.zMm],
        remedies: held ? weaker(document, held, holdingOf(document, groups[held.holding])) : [],
      },
    ),
  ]
}

/** How much wider a gap is tried where a contact is too strong. */
const WIDER_MM = 0.05

/** Ways to let a contact hold less; what rules it already goes on to. */
function weaker(
  document: Warned['document'],
  contact: Contact,
  { upperGapMm, interfaceSpacingMm }: Holding,
): PlanRemedy[] {
  const gap = Number((upperGapMm + WIDER_MM).toFixed(2))
  const spacing = Number((interfaceSpacingMm + document.decisions.lineWidthMm).toFixed(2))
  return [
    {
      words: `leave ${gapMm(gap)} above there`,
      change: exceptionsFor(document, [contact], { upperGapMm: gap }),
    },
    {
      words: `interface lines ${mm(spacing)} apart there`,
      change: exceptionsFor(document, [contact], { interfaceSpacingMm: spacing }),
    },
  ]
}

/** An exception for each of some undersides: as they are held now, but for these values. */
const exceptionsFor = (
  { exceptions }: Warned['document'],
  contacts: readonly Contact[],
  values: Partial<Exception>,
): PlanRemedy['change'] => ({
  exceptions: [
    ...exceptions,
    ...contacts.map(({ atMm, zMm, holding }): Exception => {
      const { evidence: _, ...own } = exceptions[holding - 1] ?? {}
      return { ...own, where: { contact: [...atMm, zMm] }, ...values }
    }),
  ],
})

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

/** What a piece holds. */
const heldBy = (piece: StandPiece, contacts: Warned['contacts']): Contact[] =>
  contacts.filter(
    ({ atMm, zMm, areaMm2 }) =>
      areaMm2 > 0 && piece.distanceMm([...atMm, zMm], 3 * piece.cellMm) < 3 * piece.cellMm,
  )

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

function unsteady(
  document: Warned['document'],
  pieces: readonly StandPiece[],
  steadiness: ReturnType<typeof steadinessIn>,
  contacts: Warned['contacts'],
): PlanWarning[] {
  const weak = pieces.flatMap((piece) => {
    const steady = steadiness.get(piece)
    return steady && steady.holdsN < NOZZLE_PUSHES_N ? [{ piece, steady }] : []
  })
  if (weak.length === 0) return []
  const { piece, steady } = weak.reduce((a, b) => (b.steady.holdsN < a.steady.holdsN ? b : a))
  const what =
    steady.gives === 'tips'
      ? `a nozzle that pushes with ${steady.holdsN.toFixed(2)} N at its top tips it off the bed`
      : `a nozzle that pushes with ${steady.holdsN.toFixed(2)} N at its top bends it by a line’s width`
  const lines = steady.footingLines
  const footing = lines === null ? null : document.decisions.footingLines + lines
  const mend =
    footing !== null
      ? ` ${footing} lines of footing would hold it.`
      : ' A wider margin, more walls or a denser stand make it stiffer.'
  return [
    warning(
      'UNSTEADY',
      `${weak.length === 1 ? 'A stand' : `${weak.length} stands, the weakest`} around ${place(piece)} is ${Math.round(steady.heightMm)} mm tall: by what beds and plastic usually hold, a guess, ${what}.${mend}`,
      { atMm: [...piece.atMm], remedies: steadier(document, footing, ruling(heldBy(piece, contacts))) },
    ),
  ]
}

/** The exception that rules all of some undersides; null when that is the letter, or several of them do. */
function ruling(contacts: readonly Contact[]): number | null {
  const [first] = contacts
  return first && first.holding > 0 && contacts.every(({ holding }) => holding === first.holding)
    ? first.holding - 1
    : null
}

/**
 * A wider foot where that holds it, else what makes it stiffer, in the sentence that rules it.
 * @param sentence the exception that does; null for the letter itself
 */
function steadier(
  { decisions, exceptions }: Warned['document'],
  footing: number | null,
  sentence: number | null,
): PlanRemedy[] {
  if (footing !== null) return [decide(`${footing} lines of footing`, { footingLines: footing })]
  const own = sentence === null ? undefined : exceptions[sentence]
  const { standWalls, standDensity } = own ? holdingUnder(decisions, own) : decisions
  const there = (words: string, values: Partial<Pick<Holding, 'standWalls' | 'standDensity'>>): PlanRemedy =>
    own
      ? {
          words: `${words} there`,
          change: { exceptions: exceptions.map((one) => (one === own ? { ...one, ...values } : one)) },
        }
      : decide(words, values)
  const denser = Math.min(1, Number((1.75 * standDensity).toFixed(2)))
  return [
    ...(standWalls < 2 ? [there('one wall more around stands', { standWalls: standWalls + 1 })] : []),
    ...(denser > standDensity
      ? [there(`stands filled to ${Math.round(100 * denser)} %`, { standDensity: denser })]
      : []),
  ]
}

const largest = (pieces: readonly StandPiece[]) => pieces.reduce((a, b) => (b.grossMm3 > a.grossMm3 ? b : a))
const counted = (pieces: readonly StandPiece[]) =>
  pieces.length === 1 ? 'One piece' : `${pieces.length} pieces`
const volume = ({ grossMm3 }: StandPiece) => `${Number((grossMm3 / 1000).toPrecision(2))} cm³`
const place = ({ atMm }: StandPiece) =>
  `${mm(Math.round(atMm[0]))}, ${mm(Math.round(atMm[1]))} at ${mm(Math.round(atMm[2]))} height`
