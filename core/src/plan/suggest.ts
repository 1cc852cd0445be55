import { filamentOf, sharesNozzle, type FamilyBook, type Filament, type Printer } from '../bench'
import { knownPairing, pairingSentence } from '../pairing'
import { FULL_COMPASS, fitSpan, fitFan, fitPurge, gapSentence, tenderAt, trialsOf, type GapFit, type KnownTrial } from '../trial'
import { angleOfShare } from '../units'
import { startingPurgeMm3, type Decisions, type Evidence, type SpokenFor } from './decisions'

export type SuggestInput = {
  readonly trials: readonly KnownTrial[]
  readonly decisions: Decisions
  readonly printer: Printer
  readonly filaments: readonly Filament[]
  readonly book?: FamilyBook
}

/** Values that the readings speak for, each with where it comes from. Without readings: a starting guess, marked as one. */
export function suggest(input: SuggestInput): Readonly<Record<SpokenFor, Evidence>> {
  return { freeAngleDeg: suggestFreeAngle(input), freeSpanMm: suggestFreeSpan(input), upperGapMm: suggestUpperGap(input), purgeMm3: suggestPurge(input) }
}

const idsOf = (trials: readonly KnownTrial[]) => trials.map(({ id, name }) => ({ id, name }))
const newestOf = (trials: readonly KnownTrial[]) => trials.reduce<string | null>((newest, { printedOn }) => (newest === null || printedOn > newest ? printedOn : newest), null)
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

function suggestFreeAngle(input: SuggestInput): Evidence {
  const { trials, decisions, printer } = input
  const fans = trialsOf(trials, 'fan').filter((trial) => trial.conditions.partFilament === decisions.partFilament)
  const readings = fans.flatMap((trial) => trial.readings)
  const fit = fitFan(readings)
  // The plan limits every direction alike, so it takes the direction that copes worst.
  const worst = fit.directions.find((one) => one.direction === fit.worst)
  const share = worst?.share ?? fit.share
  const at = (u: number) => angleOfShare(u, decisions.layerHeightMm, decisions.lineWidthMm)
  const value = Math.floor(at(share.cautious))
  if (readings.length === 0) return guess(value, at(share.low), at(share.high), `Nobody has printed a fan in ${decisions.partFilament} yet, so this is a starting guess.`)
  const facing = worst ? ` Facing ${worst.direction} is the weakest side.` : ''
  const transferred = readings.some((r) => Math.abs(r.layerHeightMm - decisions.layerHeightMm) > 1e-6 || Math.abs(r.lineWidthMm - decisions.lineWidthMm) > 1e-6)
  return {
    source: transferred ? 'transferred' : 'measured',
    value,
    low: at(share.low),
    high: at(share.high),
    readings: readings.length,
    trials: idsOf(fans),
    newest: newestOf(fans),
    ...(fit.directions.length > 1
      ? {
          sidesDeg: sidesOf(
            fit.directions.map(({ direction, share: own }) => ({ direction, limitDeg: Math.floor(at(own.cautious)) })),
            value,
          ),
        }
      : {}),
    mismatches: mismatches(fans, input, printer.wallMmS),
    sentence: `Half of prints hold to ${Math.round(at(share.median))}°, nine in ten of the possible limits lie above ${value}°.${facing}${
      transferred ? ` Carried over from ${fit.layerHeightMm} mm layers by the share that hangs over.` : ''
    }`,
  }
}

/** Limits of all eight sides: those that were read; between two of them, their mean; the worst where nothing near was read. */
function sidesOf(read: readonly { readonly direction: string; readonly limitDeg: number }[], worstDeg: number): number[] {
  const own = FULL_COMPASS.map((side) => read.find(({ direction }) => direction === side)?.limitDeg ?? null)
  return own.map((limit, k) => {
    if (limit !== null) return limit
    const beside = [own[(k + 7) % 8], own[(k + 1) % 8]].filter((one) => one !== null)
    return beside.length === 2 ? Math.floor((beside[0] + beside[1]) / 2) : worstDeg
  })
}

/** Longest bridge that may stay free. Spans transfer between layer heights no further than the ladder itself was printed. */
function suggestFreeSpan(input: SuggestInput): Evidence {
  const { trials, decisions, printer } = input
  const ladders = trialsOf(trials, 'span').filter((trial) => trial.conditions.partFilament === decisions.partFilament)
  const readings = ladders.flatMap((trial) => trial.readings)
  const { freeSpanMm } = fitSpan(readings)
  const value = Math.floor(freeSpanMm.cautious)
  if (readings.length === 0) return guess(value, freeSpanMm.low, freeSpanMm.high, `Nobody has printed a bridge ladder in ${decisions.partFilament} yet, so this is a starting guess.`)
  return {
    source: ladders.some(({ conditions }) => Math.abs(conditions.layerHeightMm - decisions.layerHeightMm) > 1e-6) ? 'transferred' : 'measured',
    value,
    low: freeSpanMm.low,
    high: freeSpanMm.high,
    readings: readings.length,
    trials: idsOf(ladders),
    newest: newestOf(ladders),
    mismatches: mismatches(ladders, input, printer.wallMmS),
    sentence: `Half of bridges hold to ${Math.round(freeSpanMm.median)} mm, nine in ten of the possible limits lie above ${value} mm.`,
  }
}

function suggestUpperGap(input: SuggestInput): Evidence {
  const { trials, decisions, printer, filaments, book } = input
  const part = filamentOf(filaments, decisions.partFilament)
  const touching = filamentOf(filaments, decisions.interfaceFilament)
  const known = knownPairing(part, touching, trials, { book, lineWidthMm: decisions.lineWidthMm })
  const { fit, ladders } = known
  const value = Math.round(fit.suggestedGapMm * 100) / 100
  const tender = { gapsMm: [...fit.curve.gapsMm], chance: [...fit.curve.tender] }
  if (known.source === 'guess') return { ...guess(value, fit.windowMm[0], fit.windowMm[1], pairingSentence(known)), tender }
  const transferred = ladders.some((trial) => Math.abs(trial.conditions.layerHeightMm - decisions.layerHeightMm) > 1e-6)
  return {
    source: transferred ? 'transferred' : 'measured',
    value,
    low: fit.windowMm[0],
    high: fit.windowMm[1],
    readings: fit.readings,
    trials: idsOf(ladders),
    newest: newestOf(ladders),
    tender,
    mismatches: mismatches(ladders, input, printer.interfaceMmS),
    sentence: gapSentence(fit),
  }
}

/** How much to purge at a swap: enough for the part's strength, whichever way the worse of the two swaps goes. */
function suggestPurge(input: SuggestInput): Evidence {
  const { trials, decisions, printer } = input
  const start = startingPurgeMm3(printer)
  if (!sharesNozzle(printer)) return guess(start, null, null, 'Each filament has a nozzle of its own: a swap only primes it.')
  const pair = [decisions.partFilament, decisions.interfaceFilament]
  const ladders = trialsOf(trials, 'purge').filter(
    ({ conditions }) => pair.includes(conditions.partFilament) && pair.includes(conditions.supportFilament) && conditions.partFilament !== conditions.supportFilament,
  )
  if (ladders.length === 0) return guess(start, null, null, 'No purge ladder of these two has been read, so this is a starting guess.')
  // A ladder printed the other way round tells the same, its swaps the other way.
  const readings = ladders.flatMap(({ readings: own, conditions }) =>
    conditions.partFilament === pair[0] ? own : own.map((one) => ({ ...one, swap: one.swap === 'AB' ? ('BA' as const) : ('AB' as const) })),
  )
  const { swaps } = fitPurge(readings)
  const worst = swaps.reduce((a, b) => (b.volumeMm3.strength.cautious > a.volumeMm3.strength.cautious ? b : a))
  const need = worst.volumeMm3.strength
  const [from, to] = worst.swap === 'AB' ? pair : [pair[1], pair[0]]
  return {
    source: 'measured',
    value: Math.min(3000, Math.ceil(need.cautious / 10) * 10),
    low: need.low,
    high: need.high,
    readings: readings.length,
    trials: idsOf(ladders),
    newest: newestOf(ladders),
    mismatches: mismatches(ladders, input, null),
    sentence: `From ${from} to ${to} leaves most behind: about ${Math.round(need.median)} mm³ do for a strong part, and ${Math.round(need.cautious)} nine times in ten.`,
  }
}

/** Probability that a contact comes off clean at a gap, as the evidence has it; null when there is none. */
export function tenderFromEvidence(evidence: Evidence | undefined, gapMm: number): number | null {
  if (!evidence?.tender) return null
  const { gapsMm, chance } = evidence.tender
  return tenderAt({ curve: { gapsMm: Float64Array.from(gapsMm), tender: Float64Array.from(chance) } } as unknown as GapFit, gapMm)
}

/** Conditions of the trials that differ from the plan and are not covered by the hanging share. */
function mismatches(trials: readonly KnownTrial[], { printer, decisions, filaments }: SuggestInput, speedMmS: number | null): string[] {
  const found = new Set<string>()
  const lots = (name: string) => filaments.find((filament) => filament.name === name)?.lots ?? []
  for (const { name, conditions } of trials) {
    if (Math.abs(conditions.nozzleMm - printer.nozzleMm) > 1e-6) found.add(`${name} used a ${conditions.nozzleMm} mm nozzle, the plan a ${printer.nozzleMm} mm one.`)
    if (speedMmS !== null && Math.abs(conditions.speedMmS - speedMmS) > 0.15 * speedMmS) found.add(`${name} was printed at ${conditions.speedMmS} mm/s, the plan prints at ${speedMmS}.`)
    if (Math.abs(conditions.fanPercent - decisions.fanPercent) > 10) found.add(`${name} was cooled with the fan at ${conditions.fanPercent} %, the plan has ${decisions.fanPercent} %.`)
    if (conditions.printer !== printer.name) found.add(`${name} came from ${conditions.printer}, the plan is for ${printer.name}.`)
    for (const [filament, lot] of [
      [conditions.partFilament, conditions.partLot],
      [conditions.supportFilament, conditions.supportLot],
    ])
      // prettier-ignore
      if (lot !== '' && lots(filament).length > 0 && !lots(filament).includes(lot)) found.add(`${name} was printed from lot ${lot} of ${filament}; on the bench is ${lots(filament).join(', ')}.`)
    if (conditions.damp) found.add(`${name} was printed from a damp spool.`)
  }
  return [...found]
}
