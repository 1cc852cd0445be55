import { clingGuess, factsOf, filamentOf, sharesNozzle } from '../bench'
import {
  bookOf,
  farthestApartMm,
  followedOf,
  holdingUnder,
  withinException,
  type Decisions,
  type Holding,
  type PlanChange,
  type PlanDocument,
} from '../decide'
import { knownPairing } from '../pairing'
import { followChance } from '../release'
import { chanceAt, purgeFitOf, trialsOf, type CouponKind, type KnownTrial } from '../trial'
import type { ContactReading, PrintedContact } from './record'

/** What went wrong, as a maker would point at it. */
export const COMPLAINTS = [
  'will not come off',
  'torn face',
  'sagging face',
  'interface stayed',
  'specks in the face',
  'support fell over',
  'part broke',
  'marks at the side',
] as const
export type Complaint = (typeof COMPLAINTS)[number]

export const CAUSES = [
  'gap too small',
  'gap too large',
  'stand lets go of the interface',
  'lines along each other',
  'interface too open',
  'interface too thin',
  'stand too sparse',
  'damp spool',
  'too little purged',
  'stand unsteady',
  'weak neck',
  'side gap too small',
] as const
export type CauseName = (typeof CAUSES)[number]

export type Cause = {
  readonly name: CauseName
  /** Share of the blame among all causes, 0 to 1. */
  readonly chance: number
  /** Why it is thought so, from this plan and these readings. */
  readonly why: string
  /** The next change, one at a time; null where no decision of the plan helps. */
  readonly change: Partial<Decisions> | null
  readonly changeInWords: string
  readonly price: 'nothing' | 'a rougher face' | 'grams' | 'minutes' | 'grams and minutes' | 'care'
  /** The coupon that would settle it; null when none does. */
  readonly test: CouponKind | null
}

export type ComplaintInput = {
  readonly complaint: Complaint
  readonly document: PlanDocument
  readonly trials: readonly KnownTrial[]
  /** Where; null when it is about the whole. */
  readonly contact: PrintedContact | null
  /** What was read there beside the complaint. */
  readonly reading: Pick<ContactReading, 'release' | 'finish' | 'stayed' | 'specks'> | null
  /** Whether any spool was damp. */
  readonly damp: boolean
}

/**
 * How often each cause makes each complaint, of 100 prints in which it was the cause: starting guesses, in
 * the order of `COMPLAINTS`. Only their ratios within a column matter.
 */
const SHOWS: Readonly<Record<CauseName, readonly number[]>> = {
  'gap too small': [80, 55, 2, 12, 6, 1, 22, 3],
  'gap too large': [1, 2, 75, 2, 2, 4, 1, 1],
  'stand lets go of the interface': [12, 15, 3, 85, 18, 1, 3, 1],
  'lines along each other': [25, 22, 20, 8, 8, 1, 4, 1],
  'interface too open': [1, 3, 55, 3, 3, 1, 1, 1],
  'interface too thin': [6, 10, 40, 30, 6, 1, 2, 1],
  'stand too sparse': [1, 3, 50, 25, 3, 12, 1, 1],
  'damp spool': [18, 20, 30, 10, 18, 4, 8, 2],
  'too little purged': [10, 12, 2, 4, 80, 1, 25, 1],
  'stand unsteady': [1, 1, 25, 1, 1, 85, 4, 2],
  'weak neck': [3, 6, 1, 1, 1, 2, 75, 1],
  'side gap too small': [35, 10, 1, 4, 3, 1, 10, 90],
}

/**
 * Chance that a contact with this cause is graded so that it counts as good: what was read beside speaks too.
 */
const RELEASES_WELL: Partial<Record<CauseName, number>> = {
  'gap too small': 0.08,
  'lines along each other': 0.4,
  'side gap too small': 0.35,
  'gap too large': 0.97,
}
const LOOKS_WELL: Partial<Record<CauseName, number>> = {
  'gap too large': 0.08,
  'interface too open': 0.2,
  'interface too thin': 0.4,
  'stand too sparse': 0.3,
  'damp spool': 0.5,
}
const USUALLY = 0.75

type Judged = { readonly prior: number; readonly why: string } & Pick<
  Cause,
  'change' | 'changeInWords' | 'price' | 'test'
>

/**
 * Causes of what went wrong, the likeliest first, each with the next change.
 *
 * Source: Bayes: how likely this plan and these readings make a cause, times how often it shows so, shared
 * out to 1.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function causesOf(input: ComplaintInput): Cause[] {
  const judged = judgeCauses(input)
  const column = COMPLAINTS.indexOf(input.complaint)
  const weights = CAUSES.map((name) => judged[name].prior * SHOWS[name][column] * seenBeside(name, input))
  const all = weights.reduce((a, b) => a + b, 0)
  return CAUSES.map((name, i): Cause => {
    const { prior: _, ...rest } = judged[name]
    return { name, chance: weights[i] / all, ...rest }
  }).sort((a, b) => b.chance - a.chance)
}

/** How well what was read beside the complaint goes with a cause. */
function seenBeside(name: CauseName, { reading, complaint }: ComplaintInput): number {
  if (!reading) return 1
  let fits = 1
  const speak = (good: boolean | null, chance: number) => {
    if (good !== null) fits *= good ? chance : 1 - chance
  }
  if (complaint !== 'will not come off')
    speak(reading.release === null ? null : reading.release <= 2, RELEASES_WELL[name] ?? USUALLY)
  if (complaint !== 'sagging face')
    speak(reading.finish === null ? null : reading.finish <= 3, LOOKS_WELL[name] ?? USUALLY)
  if (complaint !== 'interface stayed')
    speak(
      reading.stayed === null ? null : reading.stayed === 'nothing',
      name === 'stand lets go of the interface' ? 0.1 : 0.85,
    )
  if (complaint !== 'specks in the face')
    speak(
      reading.specks === null ? null : reading.specks !== 'many',
      name === 'too little purged' ? 0.2 : 0.9,
    )
  return fits
}

/** The sentence of the letter that rules a contact; undefined when it is the letter itself. */
const exceptionOf = ({ exceptions }: PlanDocument, contact: PrintedContact | null) =>
  contact && contact.holding > 0 ? exceptions[contact.holding - 1] : undefined

/**
 * A cause's change as it is made to the plan: in the sentence that rules the contact, where it decides such
 * things, else in the letter.
 */
export function changeOf(
  document: PlanDocument,
  change: Partial<Decisions>,
  contact: PrintedContact | null,
): PlanChange {
  const isHolding = Object.keys(change).every((name) => HELD.has(name as keyof Decisions))
  return exceptionOf(document, contact) && isHolding
    ? withinException(document, contact!.holding - 1, { decisions: change })
    : { decisions: change }
}
/** What causes change of holding. */
const HELD: ReadonlySet<keyof Decisions> = new Set<keyof Holding>([
  'upperGapMm',
  'standDensity',
  'branches',
  'standFilament',
  'interfaceDirection',
  'interfaceSpacingMm',
  'interfaceLayers',
  'sideGapMm',
])

/** Slim branches of the demo’s parts are four to five lines thick where they bend. */
const SLIM_LINES = 5

const clamp = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value))
const hundredths = (value: number) => Math.round(value * 100) / 100

/**
 * How likely each cause is before anybody looked, from the plan and the readings, and what would be done
 * about it.
 */
function judgeCauses({ document, trials, contact, damp }: ComplaintInput): Record<CauseName, Judged> {
  const { filaments, printer } = document
  const exception = exceptionOf(document, contact)
  const d: Decisions = exception
    ? { ...document.decisions, ...holdingUnder(document.decisions, exception) }
    : document.decisions
  const book = bookOf(document)
  const part = filamentOf(filaments, d.partFilament)
  const touching = filamentOf(filaments, contact?.touching ?? d.interfaceFilament)
  const bulk = filamentOf(filaments, contact?.bulk ?? d.standFilament)
  const gapMm = contact?.achievedGapMm ?? d.upperGapMm
  const spacingMm = contact?.interfaceSpacingMm ?? d.interfaceSpacingMm
  const layers = contact?.interfaceLayers ?? d.interfaceLayers
  const w = d.lineWidthMm
  const known = knownPairing(part, touching, trials, { book })
  const { release, finish } = known.fit.beliefs
  const sticks = 1 - chanceAt(release, gapMm)
  const sags = 1 - chanceAt(finish, gapMm)
  const by = known.source === 'guess' ? 'by a guess from the families' : `by ${known.fit.readings} readings`
  const percent = (share: number) => `${Math.round(100 * share)} %`

  const seen = followedOf(document.learnt, part.id, touching.id, bulk.id)
  const same = touching.id === bulk.id
  const toPart = clingGuess(part.family, touching.family, book).cling
  const toBulk = same ? 4 : clingGuess(touching.family, bulk.family, book).cling
  const guessed = contact?.guessed ?? (toBulk > toPart ? 'surely' : toBulk === toPart ? 'perhaps' : 'hardly')
  const letsGo = 1 - followChance(guessed, seen)

  // Lines slanted across those of a stand, as they are laid however sparse it is asked to be.
  const freeMm = (Math.min(w / d.standDensity, farthestApartMm(d)) - w) * Math.SQRT2
  const wet = [part, touching].some(({ family }) => factsOf(family, book).drawsWater)
  const heightMm = contact?.atMm[2] ?? 0
  const neckMm = contact?.neckMm ?? null
  const isSlim = d.standKind === 'branching' && d.branches === 'slim'
  const thickMm = isSlim ? SLIM_LINES * w : Math.max(1, Math.sqrt(contact?.areaMm2 ?? 0))
  const slender = heightMm / thickMm
  const mixes = touching.id !== part.id || bulk.id !== part.id
  const purgeLacks = mixes && sharesNozzle(printer) ? lacksPurge(document, trials) : 0.01

  return {
    'gap too small': {
      prior: clamp(sticks, 0.02, 0.95),
      why: `At ${gapMm.toFixed(2)} mm ${percent(sticks)} would not let go, ${by}.`,
      change: { upperGapMm: hundredths(Math.min(2, d.upperGapMm + 0.04)) },
      changeInWords: `Leave ${hundredths(d.upperGapMm + 0.04).toFixed(2)} mm, a small step more.`,
      price: 'a rougher face',
      test: 'gap',
    },
    'gap too large': {
      prior: clamp(sags, 0.02, 0.95),
      why: `At ${gapMm.toFixed(2)} mm ${percent(sags)} of faces would not be fine, ${by}.`,
      change: d.upperGapMm > 0 ? { upperGapMm: hundredths(Math.max(0, d.upperGapMm - 0.04)) } : null,
      changeInWords: `Leave ${hundredths(Math.max(0, d.upperGapMm - 0.04)).toFixed(2)} mm, a small step less.`,
      price: 'nothing',
      test: 'gap',
    },
    'stand lets go of the interface': {
      prior: clamp(letsGo, 0.02, 0.95),
      why: `The interface in ${touching.name} stays behind ${percent(letsGo)} of the time, ${seen ? `by ${seen.came + seen.stayed} contacts taken off` : 'by the clings of the families'}.`,
      change: same
        ? { standDensity: hundredths(Math.min(1, d.standDensity * 1.75)) }
        : { standFilament: touching.id },
      changeInWords: same
        ? `Denser stands, ${Math.round(100 * Math.min(1, d.standDensity * 1.75))} %, so that more lines carry it.`
        : `Stands in ${touching.name} as well.`,
      price: same ? 'grams' : 'grams and minutes',
      test: null,
    },
    'lines along each other': {
      prior: d.interfaceDirection === 'along' ? 0.5 : 0.03,
      why:
        d.interfaceDirection === 'along'
          ? 'The interface runs along the part’s first lines, which bed into it.'
          : 'The interface runs across the part’s first lines.',
      change: d.interfaceDirection === 'along' ? { interfaceDirection: 'across' } : null,
      changeInWords:
        d.interfaceDirection === 'along'
          ? 'Interface lines across the part’s first ones.'
          : 'Nothing to change: they cross already.',
      price: 'nothing',
      test: 'gap',
    },
    'interface too open': {
      prior: clamp((0.6 * spacingMm) / (w + spacingMm), 0.02, 0.6),
      why: spacingMm > 0 ? `Its lines lie ${spacingMm.toFixed(2)} mm apart.` : 'Its lines lie side by side.',
      change: spacingMm > 0 ? { interfaceSpacingMm: 0 } : null,
      changeInWords:
        spacingMm > 0 ? 'Interface lines side by side.' : 'Nothing to change: they lie side by side.',
      price: spacingMm > 0 ? 'grams' : 'nothing',
      test: 'gap',
    },
    'interface too thin': {
      prior: layers <= 1 ? 0.45 : layers === 2 ? 0.15 : 0.03,
      why: `It has ${layers} layer${layers === 1 ? '' : 's'}.`,
      change: { interfaceLayers: Math.min(20, layers + 1) },
      changeInWords: `${layers + 1} interface layers.`,
      price: 'minutes',
      test: null,
    },
    'stand too sparse': {
      prior: clamp(0.12 * (freeMm / d.supportSpanMm) ** 2, 0.01, 0.2),
      why: `What carries the interface spans ${freeMm.toFixed(1)} mm between stand lines; ${d.supportSpanMm} mm are trusted.`,
      change: { standDensity: hundredths(Math.min(1, d.standDensity * 1.5)) },
      changeInWords: `Denser stands, ${Math.round(100 * Math.min(1, d.standDensity * 1.5))} %.`,
      price: 'grams',
      test: 'span',
    },
    'damp spool': {
      prior: damp ? (wet ? 0.6 : 0.25) : wet ? 0.1 : 0.02,
      why: damp
        ? 'One of its spools is noted as damp.'
        : wet
          ? 'One of the filaments draws water.'
          : 'No spool is noted as damp.',
      change: null,
      changeInWords: 'Dry the spool, then print it again.',
      price: 'care',
      test: null,
    },
    'too little purged': {
      prior: clamp(purgeLacks, 0.01, 0.95),
      why: !mixes
        ? 'It is printed in one filament.'
        : !sharesNozzle(printer)
          ? 'Each filament has a nozzle of its own.'
          : `${d.purgeMm3} mm³ a swap are too little ${percent(purgeLacks)} of the time.`,
      change:
        mixes && sharesNozzle(printer)
          ? { purgeMm3: Math.min(3000, Math.ceil((d.purgeMm3 * 1.4) / 10) * 10) }
          : null,
      changeInWords:
        mixes && sharesNozzle(printer)
          ? `Purge ${Math.ceil((d.purgeMm3 * 1.4) / 10) * 10} mm³ at a swap.`
          : 'Nothing to change: hardly anything is carried over.',
      price: 'grams and minutes',
      test: 'purge',
    },
    'stand unsteady': {
      prior: clamp(0.03 + 0.07 * Math.max(0, slender - 3) + (d.footingLines === 0 ? 0.1 : 0), 0.02, 0.7),
      why: isSlim
        ? `${contact ? `It stands ${heightMm.toFixed(0)} mm high on branches` : 'Branches are'} as slim as they may be: until it is printed as far as they hold together each stands alone.`
        : contact
          ? `It stands ${heightMm.toFixed(0)} mm high under ${contact.areaMm2.toFixed(0)} mm² with ${d.footingLines} lines around its foot.`
          : `Stands have ${d.footingLines} lines around their feet.`,
      change: isSlim ? { branches: 'sturdy' } : { footingLines: Math.min(30, d.footingLines + 4) },
      changeInWords: isSlim
        ? 'Branches thick enough to stand alone.'
        : `${Math.min(30, d.footingLines + 4)} lines around each foot.`,
      price: 'grams',
      test: null,
    },
    'weak neck': {
      prior: neckMm === null ? 0.03 : 0.6,
      why:
        neckMm === null
          ? 'No thin neck or arm of the part carries a strong pull.'
          : `The pull goes through a neck or an arm of the part, ${neckMm.toFixed(1)} mm wide.`,
      change: null,
      changeInWords: 'Hold the part on the contact’s side of it while you pull.',
      price: 'care',
      test: null,
    },
    'side gap too small': {
      prior: d.sideGapMm < w ? 0.35 : d.sideGapMm < 1.2 * w ? 0.12 : 0.03,
      why: `Stands keep ${d.sideGapMm.toFixed(2)} mm from walls; a line is ${w.toFixed(2)} mm wide.`,
      change: { sideGapMm: hundredths(Math.min(10, d.sideGapMm + 0.2)) },
      changeInWords: `${hundredths(d.sideGapMm + 0.2).toFixed(2)} mm beside walls.`,
      price: 'nothing',
      test: null,
    },
  }
}

/** Chance that a swap purges too little for the part. */
function lacksPurge({ decisions: d }: PlanDocument, trials: readonly KnownTrial[]): number {
  const pair = [d.partFilament, d.interfaceFilament]
  const ladders = trialsOf(trials, 'purge').filter(
    ({ conditions: { partFilament, supportFilament } }) =>
      pair.includes(partFilament.id) && pair.includes(supportFilament.id),
  )
  const needs = purgeFitOf(ladders, pair[0]).swaps.map(({ volumeMm3 }) => volumeMm3.strength)
  // As a bell over the logarithm of the volume, whose middle and upper end are known.
  return Math.max(
    0.02,
    ...needs.map(({ median, high }) => {
      const spread = Math.max(0.02, Math.log(high / median) / 1.645)
      return 1 / (1 + Math.exp((1.7 * Math.log(d.purgeMm3 / median)) / spread))
    }),
  )
}
