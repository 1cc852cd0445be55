import { correctedOffsetMm, type OffsetFit } from './fitOffset'
import type { FanFit } from './fitFan'
import type { GapFit } from './fitGap'
import { pullAt, type PullFit } from './fitPull'
import type { PurgeFit } from './fitPurge'
import type { SpanFit } from './fitSpan'
import type { Axis } from './readings'

const two = (value: number) => value.toFixed(2)
const whole = (value: number) => `${Math.round(value)}°`
const percent = (share: number) => `${Math.round(share * 100)} %`
/** Volumes are dialled in tens. */
const tens = (mm3: number) => Math.ceil(mm3 / 10) * 10
const signed = (value: number) => `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(2)}`

/** An answer that little speaks for, or something against, says so from its first word. */
export const hedged = (sentence: string, doubts: readonly string[]): string =>
  doubts.length === 0 || sentence.startsWith('Nothing read yet')
    ? sentence
    : `As far as these readings go: ${sentence.charAt(0).toLowerCase()}${sentence.slice(1)}`

/** The answer of a gap ladder in words. */
export function gapSentence(fit: GapFit): string {
  if (fit.readings === 0) return `Nothing read yet. A starting guess is ${two(fit.suggestedGapMm)} mm.`
  if (fit.pTender < 0.4)
    return `No gap works well here: the best, ${two(fit.suggestedGapMm)} mm, comes off clean ${percent(fit.pTender)} of the time. Try another pairing, a solid interface, or lines across the part’s.`
  return `Leave ${two(fit.suggestedGapMm)} mm. Anything from ${two(fit.windowMm[0])} to ${two(fit.windowMm[1])} both lets go and looks fine.`
}

/** The answer of an overhang fan in words, with the weakest side when sides were told apart. */
export function fanSentence(fit: FanFit): string {
  if (fit.readings === 0)
    return `Nothing read yet. A starting guess for the free angle is ${whole(fit.freeAngle.cautiousDeg)} from vertical.`
  const worst = fit.directions.find((one) => one.direction === fit.worst)
  const limit = worst?.freeAngle ?? fit.freeAngle
  const facing = worst ? ` Facing ${worst.direction} it copes worst.` : ''
  return `Up to ${whole(Math.floor(limit.cautiousDeg))} from vertical prints well with nothing under it.${facing}`
}

/** The answer of a bridge ladder in words. */
export function spanSentence(fit: SpanFit): string {
  const cautious = Math.floor(fit.freeSpanMm.cautious)
  return fit.readings === 0
    ? `Nothing read yet. A starting guess for the free span is ${cautious} mm.`
    : `Bridges up to ${cautious} mm print well with nothing under them.`
}

/** The answer of a purge ladder in words, each way of swapping for itself. */
export function purgeSentence(fit: PurgeFit, names: { readonly a: string; readonly b: string }): string {
  const start = fit.readings === 0 ? 'Nothing read yet. Starting guesses: ' : ''
  const ways = fit.swaps.map(({ swap, volumeMm3: { light, strength, throwAway } }) => {
    const [from, to] = swap === 'AB' ? [names.a, names.b] : [names.b, names.a]
    return `from ${from} to ${to} purge ${tens(light.cautious)} mm³ for a light face, ${tens(strength.cautious)} for strength, ${tens(throwAway.cautious)} before a stand`
  })
  const said = `${start}${ways.join('; ')}.`
  return said.charAt(0).toUpperCase() + said.slice(1)
}

/**
 * The answer of an offset comb in words: what to type in.
 * @param stored what the printer had while it was printed; null when nobody says, then only what to add to it
 * can be told
 */
export function offsetSentence(fit: OffsetFit, stored: Readonly<Record<Axis, number>> | null): string {
  if (fit.axes.length === 0) return 'Nothing read yet. On each comb, name the tooth that lines up best.'
  if (stored === null) {
    const added = fit.axes.filter(({ errorMm }) => correctedOffsetMm(0, errorMm.median) !== 0)
    return added.length === 0
      ? 'The offset stored in the printer is right as it is.'
      : `Add ${added.map(({ axis, errorMm }) => `${axis.toUpperCase()} ${signed(errorMm.median)} mm`).join(', ')} to the second nozzle’s offset that the printer had.`
  }
  const wrong = fit.axes.filter(
    ({ errorMm, axis }) => correctedOffsetMm(stored[axis], errorMm.median) !== stored[axis],
  )
  if (wrong.length === 0) return 'The offset stored in the printer is right as it is.'
  return `Type in ${wrong.map(({ axis, errorMm }) => `${axis.toUpperCase()} ${signed(correctedOffsetMm(stored[axis], errorMm.median))}`).join(', ')} as the second nozzle’s offset.`
}

/** What pulling takes at a gap, in words. */
export function pullSentence(fit: PullFit, gapMm: number): string {
  const { median, low, high } = pullAt(fit, gapMm)
  const perCm2 = (value: number) => Number((value * 100).toPrecision(2))
  return `At ${two(gapMm)} mm a square centimetre takes about ${perCm2(median)} N to pull off, nine times in ten between ${perCm2(low)} and ${perCm2(high)}.`
}
