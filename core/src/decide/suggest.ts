import { filamentOf, sharesNozzle, type FamilyBook, type Filament, type Printer } from '../bench'
import { knownPairing, pairingSentence } from '../pairing'
import {
  FULL_COMPASS,
  fanFitOf,
  gapSentence,
  hedged,
  PURGE_PURPOSES,
  pullAt,
  purgeFitOf,
  spanFitOf,
  trialsOf,
  whatIsMissing,
  type FanFit,
  type KnownTrial,
  type PullFit,
  type PurgePurpose,
  type SwapFit,
} from '../trial'
import { angleOfShare, lineAt } from '../units'
import { leanBelow, type Decisions } from './decisions'
import { startingPurgeMm3 } from './document'
import type { Evidence, SpokenFor } from './evidence'

export type SuggestInput = {
  readonly trials: readonly KnownTrial[]
  readonly decisions: Decisions
  readonly printer: Printer
  readonly filaments: readonly Filament[]
  readonly book?: FamilyBook
}

/**
 * Values that the readings speak for, each with where it comes from. Without readings: a starting guess,
 * marked as one.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function suggest(input: SuggestInput): Readonly<Record<SpokenFor, Evidence>> {
  return {
    freeAngleDeg: suggestFreeAngle(input),
    freeSpanMm: suggestFreeSpan(input),
    supportSpanMm: suggestSupportSpan(input),
    leanDeg: suggestLean(input),
    upperGapMm: suggestUpperGap(input),
    purgeMm3: suggestPurge(input, (to) => to === input.decisions.partFilament),
    purgeAwayMm3: suggestPurge(input, (to) => to !== input.decisions.partFilament),
  }
}

const idsOf = (trials: readonly KnownTrial[]) => trials.map(({ id, name }) => ({ id, name }))
const newestOf = (trials: readonly KnownTrial[]) =>
  trials.reduce<string | null>(
    (newest, { printedOn }) => (newest === null || printedOn > newest ? printedOn : newest),
    null,
  )
const guess = (value: number, low: number | null, high: number | null, sentence: string): Evidence => ({
  source: 'guess',
  value,
  low,
  high,
  readings: 0,
  trials: [],
  mismatches: [],
  newest: null,
  sentence,
})

/** What trials say, with what they were and how they differ from the plan. */
function saidBy(
  trials: readonly KnownTrial[],
  input: SuggestInput,
  speedMmS: number | null,
  said: Pick<Evidence, 'value' | 'low' | 'high' | 'sentence' | 'tender' | 'pull' | 'leftovers'>,
): Evidence {
  const transferred = trials.some(
    ({ conditions }) => Math.abs(conditions.layerHeightMm - input.decisions.layerHeightMm) > 1e-6,
  )
  return {
    ...said,
    source: transferred ? 'transferred' : 'measured',
    readings: trials.reduce((sum, { readings }) => sum + readings.length, 0),
    trials: idsOf(trials),
    newest: newestOf(trials),
    mismatches: mismatches(trials, input, speedMmS),
  }
}

function suggestFreeAngle(input: SuggestInput): Evidence {
  const { partFilament, layerHeightMm } = input.decisions
  const { fit, ...said } = fanSays(input, partFilament, layerHeightMm)
  const at = (share: number) => Math.floor(angleOfShare(share, layerHeightMm, input.decisions.lineWidthMm))
  return {
    ...said,
    ...(said.readings > 0 && fit.directions.length > 1
      ? {
          sidesDeg: sidesOf(
            fit.directions.map(({ direction, share }) => ({ direction, limitDeg: at(share.cautious) })),
            said.value,
          ),
        }
      : {}),
  }
}

/** How far branches may lean out: a lean is an overhang of what they are printed in, in its layers. */
function suggestLean(input: SuggestInput): Evidence {
  const { standFilament, layerHeightMm, thickStands } = input.decisions
  const { fit: _, sentence, ...said } = fanSays(input, standFilament, layerHeightMm * (thickStands ? 2 : 1))
  const value = leanBelow(said.value)
  const lower = (limit: number | null) => (limit === null ? null : leanBelow(limit))
  return {
    ...said,
    value,
    low: lower(said.low),
    high: lower(said.high),
    sentence: `${sentence} Branches lean out ${said.value - value}° less: ${value}°.`,
  }
}

/** What fans say of a filament in layers of a height: how far it leans out and still prints. */
function fanSays(
  input: SuggestInput,
  filament: string,
  layerHeightMm: number,
): Evidence & { readonly fit: FanFit } {
  const { trials, decisions, printer } = input
  const fans = trialsOf(trials, 'fan').filter((trial) => trial.conditions.partFilament.id === filament)
  const readings = fans.flatMap((trial) => trial.readings)
  const fit = fanFitOf(fans)
  // The plan limits every direction alike, so it takes the direction that copes worst.
  const worst = fit.directions.find((one) => one.direction === fit.worst)
  const share = worst?.share ?? fit.share
  const at = (u: number) => angleOfShare(u, layerHeightMm, decisions.lineWidthMm)
  const value = Math.floor(at(share.cautious))
  if (readings.length === 0)
    return {
      fit,
      ...guess(
        value,
        at(share.low),
        at(share.high),
        `Nobody has printed a fan in ${filamentOf(input.filaments, filament).name} yet, so this is a starting guess.`,
      ),
    }
  const facing = worst ? ` Facing ${worst.direction} is the weakest side.` : ''
  const transferred = readings.some(
    (r) =>
      Math.abs(r.layerHeightMm - layerHeightMm) > 1e-6 ||
      Math.abs(r.lineWidthMm - decisions.lineWidthMm) > 1e-6,
  )
  return {
    fit,
    source: transferred ? 'transferred' : 'measured',
    value,
    low: at(share.low),
    high: at(share.high),
    readings: readings.length,
    trials: idsOf(fans),
    newest: newestOf(fans),
    mismatches: mismatches(fans, input, printer.wallMmS),
    sentence: hedged(
      `Half of prints hold to ${Math.round(at(share.median))}°, nine in ten of the possible limits lie above ${value}°.${facing}${
        transferred ? ` Carried over from ${fit.layerHeightMm} mm layers by the share that hangs over.` : ''
      }`,
      whatIsMissing({ kind: 'fan', readings }),
    ),
  }
}

/**
 * Limits of all eight sides: those that were read; between two of them, their mean; the worst where nothing
 * near was read.
 */
function sidesOf(
  read: readonly { readonly direction: string; readonly limitDeg: number }[],
  worstDeg: number,
): number[] {
  const own = FULL_COMPASS.map((side) => read.find(({ direction }) => direction === side)?.limitDeg ?? null)
  return own.map((limit, k) => {
    if (limit !== null) return limit
    const beside = [own[(k + 7) % 8], own[(k + 1) % 8]].filter((one) => one !== null)
    return beside.length === 2 ? Math.floor((beside[0] + beside[1]) / 2) : worstDeg
  })
}

/** What lines of supports are trusted with where nobody has printed a bridge ladder in their filament. */
const CAREFUL_SPAN_MM = 5

/** Bridge ladders of a filament. */
const spanLadders = ({ trials }: SuggestInput, filament: string) =>
  trialsOf(trials, 'span').filter(({ conditions }) => conditions.partFilament.id === filament)

/** Longest span of an interface line, by the bridges of its own filament. */
function suggestSupportSpan(input: SuggestInput): Evidence {
  const { decisions, printer, filaments } = input
  const ladders = spanLadders(input, decisions.interfaceFilament)
  const { name } = filamentOf(filaments, decisions.interfaceFilament)
  if (ladders.length === 0)
    return guess(
      CAREFUL_SPAN_MM,
      null,
      null,
      `Nobody has printed a bridge ladder in ${name} yet; lines of supports are trusted with ${CAREFUL_SPAN_MM} mm until then.`,
    )
  const { freeSpanMm } = spanFitOf(ladders)
  const value = Math.max(1, Math.floor(freeSpanMm.cautious))
  return saidBy(ladders, input, printer.interfaceMmS, {
    value,
    low: freeSpanMm.low,
    high: freeSpanMm.high,
    sentence: hedged(
      `Bridges in ${name} hold to ${value} mm nine times in ten; interface lines are laid no farther from stand to stand.`,
      whatIsMissing({ kind: 'span', readings: ladders.flatMap(({ readings }) => readings) }),
    ),
  })
}

/**
 * Longest bridge that may stay free. Spans transfer between layer heights no further than the ladder itself
 * was printed.
 */
function suggestFreeSpan(input: SuggestInput): Evidence {
  const { decisions, filaments } = input
  const ladders = spanLadders(input, decisions.partFilament)
  const { freeSpanMm } = spanFitOf(ladders)
  const value = Math.floor(freeSpanMm.cautious)
  if (ladders.length === 0)
    return guess(
      value,
      freeSpanMm.low,
      freeSpanMm.high,
      `Nobody has printed a bridge ladder in ${filamentOf(filaments, decisions.partFilament).name} yet, so this is a starting guess.`,
    )
  return saidBy(ladders, input, decisions.bridgeMmS, {
    value,
    low: freeSpanMm.low,
    high: freeSpanMm.high,
    sentence: hedged(
      `Half of bridges hold to ${Math.round(freeSpanMm.median)} mm, nine in ten of the possible limits lie above ${value} mm.`,
      whatIsMissing({ kind: 'span', readings: ladders.flatMap(({ readings }) => readings) }),
    ),
  })
}

/** Gap above the interface, for the pairing that the decisions name. */
export function suggestUpperGap(input: SuggestInput): Evidence {
  const { trials, decisions, printer, filaments, book } = input
  const part = filamentOf(filaments, decisions.partFilament)
  const touching = filamentOf(filaments, decisions.interfaceFilament)
  const known = knownPairing(part, touching, trials, { book })
  const { fit, ladders } = known
  const value = Math.round(fit.suggestedGapMm * 100) / 100
  const tender = { gapsMm: [...fit.curve.gapsMm], chance: [...fit.curve.tender] }
  if (known.source === 'guess')
    return { ...guess(value, fit.windowMm[0], fit.windowMm[1], pairingSentence(known)), tender }
  return saidBy(ladders, input, printer.interfaceMmS, {
    value,
    low: fit.windowMm[0],
    high: fit.windowMm[1],
    tender,
    ...(known.pull && { pull: pullOver(known.pull) }),
    sentence: hedged(
      gapSentence(fit),
      whatIsMissing({ kind: 'gap', readings: ladders.flatMap(({ readings }) => readings) }),
    ),
  })
}

/** Gaps at which a measured pull is kept. */
const PULL_GAPS_MM = Array.from({ length: 26 }, (_, i) => Number((i * 0.02).toFixed(2)))
const pullOver = (fit: PullFit): Evidence['pull'] => ({
  gapsMm: PULL_GAPS_MM,
  nPerMm2: PULL_GAPS_MM.map((gapMm) => Number(pullAt(fit, gapMm).median.toPrecision(4))),
})

/** Pull that a contact takes, as the evidence has it, in N; null when none was measured. */
export function pullFromEvidence(
  evidence: Evidence | undefined,
  gapMm: number,
  coveredMm2: number,
): number | null {
  if (!evidence?.pull || evidence.pull.gapsMm.length === 0) return null
  return lineAt(evidence.pull.gapsMm, evidence.pull.nPerMm2, gapMm) * coveredMm2
}

/** A swap that a plan makes, with what its purge ladders say. */
type PurgeWay = {
  readonly from: string
  readonly to: string
  readonly ladders: readonly KnownTrial[]
  readonly fit: SwapFit
  readonly purpose: PurgePurpose
}

/** What follows a swap in words. */
const PURPOSE_WORDS: Readonly<Record<PurgePurpose, string>> = {
  light: 'for a light face',
  strength: 'for plastic that has to hold together',
  throwAway: 'for stands, which are thrown away',
}

/** How much to purge at swaps to some filaments: enough for the swap that leaves most behind. */
function suggestPurge(input: SuggestInput, isTo: (filament: string) => boolean): Evidence {
  const { decisions, printer, filaments } = input
  const start = startingPurgeMm3(printer)
  if (!sharesNozzle(printer))
    return guess(start, null, null, 'Each filament has a nozzle of its own: a swap only primes it.')
  const used = [...new Set([decisions.partFilament, decisions.interfaceFilament, decisions.standFilament])]
  const ways = used
    .filter(isTo)
    .flatMap((to) => used.filter((from) => from !== to).map((from) => purgeWay(input, from, to)))
    .filter((way) => way !== null)
  if (ways.length === 0)
    return guess(
      start,
      null,
      null,
      'Nobody has read a purge ladder of these two this way round, so this is a starting guess.',
    )
  const needOf = ({ fit, purpose }: PurgeWay) => fit.volumeMm3[purpose]
  const worst = ways.reduce((a, b) => (needOf(b).cautious > needOf(a).cautious ? b : a))
  const need = needOf(worst)
  const [from, to] = [worst.from, worst.to].map((id) => filamentOf(filaments, id).name)
  const ladders = [...new Set(ways.flatMap((way) => way.ladders))]
  return {
    ...saidBy(ladders, input, null, {
      value: Math.min(3000, Math.ceil(need.cautious / 10) * 10),
      low: need.low,
      high: need.high,
      leftovers: ways.map(leftoversOf),
      sentence: hedged(
        `From ${from} to ${to}, about ${Math.round(need.median)} mm³ do ${PURPOSE_WORDS[worst.purpose]}, and ${Math.round(need.cautious)} nine times in ten.`,
        whatIsMissing({
          kind: 'purge',
          readings: trialsOf(ladders, 'purge').flatMap(({ readings }) => readings),
        }),
      ),
    }),
    // What a nozzle leaves behind does not hang on the layer it was read at.
    source: 'measured',
  }
}

function purgeWay(input: SuggestInput, from: string, to: string): PurgeWay | null {
  const ladders = trialsOf(input.trials, 'purge').filter(
    ({ conditions: { partFilament, supportFilament } }) =>
      [partFilament.id, supportFilament.id].toSorted().join() === [from, to].toSorted().join(),
  )
  const fit = ladders.length > 0 && purgeFitOf(ladders, from).swaps.find(({ swap }) => swap === 'AB')
  return fit ? { from, to, ladders, fit, purpose: purposeOf(input, from, to) } : null
}

/**
 * What of the old filament may still come along: hardly any in a light part after a dark one, little in what
 * has to hold or let go, much in stands.
 */
function purposeOf(
  { decisions, filaments }: Pick<SuggestInput, 'decisions' | 'filaments'>,
  from: string,
  to: string,
): PurgePurpose {
  if (to === decisions.partFilament) {
    const [dark, light] = [from, to].map((id) => lightness(filamentOf(filaments, id).colour))
    return light > LIGHT && dark < light - MUCH_DARKER ? 'light' : 'strength'
  }
  return to === decisions.interfaceFilament ? 'strength' : 'throwAway'
}

/** From this lightness on a face shows what is left of a filament that is so much darker. */
const LIGHT = 0.7
const MUCH_DARKER = 0.3

/** 0 black to 1 white. Source: luma of Rec. 709, without its curve. */
function lightness(colour: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16) / 255)
  const light = 0.2126 * r + 0.7152 * g + 0.0722 * b
  return Number.isFinite(light) ? light : 0
}

/** Dead and decay volume of r(V) = exp(-(V - Vd) / Vm), from the medians at two shares. */
function leftoversOf({ from, to, fit: { volumeMm3 } }: PurgeWay) {
  const [strong, light] = [volumeMm3.strength.median, volumeMm3.light.median]
  const decayMm3 = (light - strong) / Math.log(PURGE_PURPOSES.strength / PURGE_PURPOSES.light)
  return { from, to, deadMm3: strong + decayMm3 * Math.log(PURGE_PURPOSES.strength), decayMm3 }
}

/**
 * Share of the old filament that what follows a swap can bear.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export const leftoverLimit = (
  input: Pick<SuggestInput, 'decisions' | 'filaments'>,
  from: string,
  to: string,
) => PURGE_PURPOSES[purposeOf(input, from, to)]

/**
 * Share of the old filament that comes along after a volume, by the evidence; null where nobody read this
 * swap.
 */
export function leftoverShare(
  evidence: Evidence | undefined,
  from: string,
  to: string,
  volumeMm3: number,
): number | null {
  const way = evidence?.leftovers?.find((one) => one.from === from && one.to === to)
  return way ? Math.min(1, Math.exp(-(volumeMm3 - way.deadMm3) / Math.max(1e-6, way.decayMm3))) : null
}

/** Probability that a contact comes off clean at a gap, as the evidence has it; null when there is none. */
export function tenderFromEvidence(evidence: Evidence | undefined, gapMm: number): number | null {
  if (!evidence?.tender || evidence.tender.gapsMm.length === 0) return null
  return lineAt(evidence.tender.gapsMm, evidence.tender.chance, gapMm)
}

/** Conditions of the trials that differ from the plan and are not covered by the hanging share. */
function mismatches(
  trials: readonly KnownTrial[],
  { printer, decisions, filaments }: SuggestInput,
  speedMmS: number | null,
): string[] {
  const found = new Set<string>()
  const lotsOf = (id: string) => filaments.find((filament) => filament.id === id)?.lots ?? []
  for (const { name, conditions } of trials) {
    if (Math.abs(conditions.nozzleMm - printer.nozzleMm) > 1e-6)
      found.add(`${name} used a ${conditions.nozzleMm} mm nozzle, the plan a ${printer.nozzleMm} mm one.`)
    if (speedMmS !== null && Math.abs(conditions.speedMmS - speedMmS) > 0.15 * speedMmS)
      found.add(`${name} was printed at ${conditions.speedMmS} mm/s, the plan prints at ${speedMmS}.`)
    if (Math.abs(conditions.fanPercent - decisions.fanPercent) > 10)
      found.add(
        `${name} was cooled with the fan at ${conditions.fanPercent} %, the plan has ${decisions.fanPercent} %.`,
      )
    // A plan file written by hand knows its printer by name alone.
    if (conditions.printer.id !== printer.id && conditions.printer.name !== printer.name)
      found.add(`${name} came from ${conditions.printer.name}, the plan is for ${printer.name}.`)
    for (const [filament, lot] of [
      [conditions.partFilament, conditions.partLot],
      [conditions.supportFilament, conditions.supportLot],
    ] as const) {
      const lots = lotsOf(filament.id)
      if (lot !== '' && lots.length > 0 && !lots.includes(lot))
        found.add(
          `${name} was printed from lot ${lot} of ${filament.name}; on the bench is ${lots.join(', ')}.`,
        )
    }
    if (conditions.simulated)
      found.add(`${name} was read by stand-ins: it rehearses, and is true of no filament.`)
    if (conditions.damp) found.add(`${name} was printed from a damp spool.`)
  }
  return [...found]
}
