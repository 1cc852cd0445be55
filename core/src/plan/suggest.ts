import { clingGuess, type Filament, type Printer } from '../bench'
import { fitFan, fitGap, gapPriorOf, gapSentence, tenderAt, type FanReading, type GapFit, type GapReading } from '../trial'
import { angleOfShare } from '../units'
import type { Decisions, Evidence, PlanEvidence } from './decisions'

/** Circumstances of a printed trial. */
export type TrialConditions = {
  readonly printer: string
  readonly partFilament: string
  /** What touched the part; for a fan the same as the part. */
  readonly supportFilament: string
  readonly nozzleMm: number
  readonly layerHeightMm: number
  readonly lineWidthMm: number
  readonly speedMmS: number
  readonly fanPercent: number
  readonly damp: boolean
}

export type KnownTrial = { readonly id: string; readonly name: string; readonly conditions: TrialConditions } & (
  { readonly kind: 'fan'; readonly readings: readonly FanReading[] } | { readonly kind: 'gap'; readonly readings: readonly GapReading[] }
)

export type SuggestInput = {
  readonly trials: readonly KnownTrial[]
  readonly decisions: Decisions
  readonly printer: Printer
  readonly filaments: readonly Filament[]
}

/** Values that the readings speak for, each with where it comes from. Without readings: a starting guess, marked as one. */
export function suggest(input: SuggestInput): { readonly freeAngleDeg: number; readonly upperGapMm: number; readonly evidence: Required<PlanEvidence> } {
  const freeAngleDeg = suggestFreeAngle(input)
  const upperGapMm = suggestUpperGap(input)
  return { freeAngleDeg: freeAngleDeg.value, upperGapMm: upperGapMm.value, evidence: { freeAngleDeg, upperGapMm } }
}

function suggestFreeAngle({ trials, decisions, printer }: SuggestInput): Evidence {
  const fans = trials.filter((trial) => trial.kind === 'fan' && trial.readings.length > 0 && trial.conditions.partFilament === decisions.partFilament)
  const readings = fans.flatMap((trial) => (trial.kind === 'fan' ? trial.readings : []))
  const fit = fitFan(readings)
  // The plan limits every direction alike, so it takes the direction that copes worst.
  const worst = fit.directions.find((one) => one.direction === fit.worst)
  const share = worst?.share ?? fit.share
  const at = (u: number) => angleOfShare(u, decisions.layerHeightMm, decisions.lineWidthMm)
  const value = Math.floor(at(share.cautious))
  const facing = worst ? ` Facing ${worst.direction} is the weakest side.` : ''
  if (readings.length === 0)
    return {
      source: 'guess',
      value,
      low: at(share.low),
      high: at(share.high),
      readings: 0,
      trials: [],
      mismatches: [],
      sentence: `Nobody has printed a fan in ${decisions.partFilament} yet, so this is a starting guess.`,
    }
  const transferred = readings.some((r) => Math.abs(r.layerHeightMm - decisions.layerHeightMm) > 1e-6 || Math.abs(r.lineWidthMm - decisions.lineWidthMm) > 1e-6)
  return {
    source: transferred ? 'transferred' : 'measured',
    value,
    low: at(share.low),
    high: at(share.high),
    readings: readings.length,
    trials: fans.map(({ id, name }) => ({ id, name })),
    mismatches: mismatches(fans, printer, printer.wallMmS),
    sentence: `Half of prints hold to ${Math.round(at(share.median))}°, nine in ten of the possible limits lie above ${value}°.${facing}${
      transferred ? ` Carried over from ${fit.layerHeightMm} mm layers by the share that hangs over.` : ''
    }`,
  }
}

function suggestUpperGap({ trials, decisions, printer, filaments }: SuggestInput): Evidence {
  const ladders = trials.filter(
    (trial) => trial.kind === 'gap' && trial.readings.length > 0 && trial.conditions.partFilament === decisions.partFilament && trial.conditions.supportFilament === decisions.interfaceFilament,
  )
  const readings = ladders.flatMap((trial) => (trial.kind === 'gap' ? trial.readings : []))
  const [part, touching] = [decisions.partFilament, decisions.interfaceFilament].map((name) => filaments.find((filament) => filament.name === name))
  const guess = part && touching ? clingGuess(part.family, touching.family) : { cling: 4 as const, known: false }
  const fit = fitGap(readings, { lineWidthMm: decisions.lineWidthMm, ...(part && touching ? { prior: gapPriorOf(guess.cling) } : {}) })
  const pair = decisions.partFilament === decisions.interfaceFilament ? `${decisions.partFilament} on itself` : `${decisions.interfaceFilament} under ${decisions.partFilament}`
  const base = {
    value: Math.round(fit.suggestedGapMm * 100) / 100,
    low: fit.windowMm[0],
    high: fit.windowMm[1],
    readings: readings.length,
    trials: ladders.map(({ id, name }) => ({ id, name })),
    tender: { gapsMm: [...fit.curve.gapsMm], chance: [...fit.curve.tender] },
  }
  if (readings.length === 0)
    return {
      ...base,
      source: 'guess',
      mismatches: [],
      sentence: `No ladder of ${pair} has been read; their families ${guess.known ? 'usually' : 'probably'} cling at ${guess.cling} of 4. A starting guess.`,
    }
  const odd = mismatches(ladders, printer, printer.interfaceMmS)
  const transferred = ladders.some((trial) => Math.abs(trial.conditions.layerHeightMm - decisions.layerHeightMm) > 1e-6)
  return { ...base, source: transferred ? 'transferred' : 'measured', mismatches: odd, sentence: gapSentence(fit) }
}

/** Probability that a contact comes off clean at a gap, as the evidence has it; null when there is none. */
export function tenderFromEvidence(evidence: Evidence | undefined, gapMm: number): number | null {
  if (!evidence?.tender) return null
  const { gapsMm, chance } = evidence.tender
  return tenderAt({ curve: { gapsMm: Float64Array.from(gapsMm), tender: Float64Array.from(chance) } } as GapFit, gapMm)
}

/** Conditions of the trials that differ from the plan and are not covered by the hanging share. */
function mismatches(trials: readonly KnownTrial[], printer: Printer, speedMmS: number): string[] {
  const found = new Set<string>()
  for (const { name, conditions } of trials) {
    if (Math.abs(conditions.nozzleMm - printer.nozzleMm) > 1e-6) found.add(`${name} used a ${conditions.nozzleMm} mm nozzle, the plan a ${printer.nozzleMm} mm one.`)
    if (Math.abs(conditions.speedMmS - speedMmS) > 0.15 * speedMmS) found.add(`${name} was printed at ${conditions.speedMmS} mm/s, the plan prints at ${speedMmS}.`)
    if (conditions.printer !== printer.name) found.add(`${name} came from ${conditions.printer}, the plan is for ${printer.name}.`)
    if (conditions.damp) found.add(`${name} was printed from a damp spool.`)
  }
  return [...found]
}
