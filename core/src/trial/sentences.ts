import type { FanFit } from './fitFan'
import type { GapFit } from './fitGap'

const two = (value: number) => value.toFixed(2)
const whole = (value: number) => `${Math.round(value)}°`
const percent = (share: number) => `${Math.round(share * 100)} %`

/** The answer of a gap ladder in words. */
export function gapSentence(fit: GapFit): string {
  if (fit.readings === 0) return `Nothing read yet. A starting guess is ${two(fit.suggestedGapMm)} mm.`
  if (fit.pTender < 0.4)
    return `No gap works well here: the best, ${two(fit.suggestedGapMm)} mm, comes off clean ${percent(fit.pTender)} of the time. Try another pairing, a solid interface, or lines across the part’s.`
  return `Leave ${two(fit.suggestedGapMm)} mm. Anything from ${two(fit.windowMm[0])} to ${two(fit.windowMm[1])} both lets go and looks fine.`
}

/** The answer of an overhang fan in words, with the weakest side when sides were told apart. */
export function fanSentence(fit: FanFit): string {
  if (fit.readings === 0) return `Nothing read yet. A starting guess for the free angle is ${whole(fit.freeAngle.cautiousDeg)} from vertical.`
  const worst = fit.directions.find((one) => one.direction === fit.worst)
  const limit = worst?.freeAngle ?? fit.freeAngle
  const facing = worst ? ` Facing ${worst.direction} it copes worst.` : ''
  return `Up to ${whole(Math.floor(limit.cautiousDeg))} from vertical prints well with nothing under it.${facing}`
}
