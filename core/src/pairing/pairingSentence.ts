import { takeOffBehind } from '../trial'
import type { KnownPairing } from './knownPairing'

const counted = (count: number, what: string): string | null =>
  count === 0 ? null : count === 1 ? `one ${what}` : `${count} ${what}s`

/** What to do with a pairing, in words, and how far that can be trusted. */
export function pairingSentence({ fit, source, cling, clingKnown, ladders }: KnownPairing): string {
  const gap = fit.suggestedGapMm
  const chance = Math.round(fit.pTender * 100)
  const way = gap < 0.02 ? 'Let them touch' : `Leave ${gap.toFixed(2)} mm`
  if (source === 'guess')
    return `${way}, as a starting guess: families like these ${clingKnown ? 'usually' : 'probably'} cling at ${cling} of 4. No ladder has been read yet.`
  const takeOffs = ladders.filter(({ id }) => takeOffBehind(id) !== null).length
  const prints = [counted(ladders.length - takeOffs, 'ladder'), counted(takeOffs, 'take-off')]
    .filter((words) => words !== null)
    .join(' and ')
  if (fit.pTender < 0.4)
    return `No gap works well: at best ${chance} in 100 contacts come off clean with a good face, on ${prints}.`
  return `${way}. About ${chance} in 100 contacts come off clean with a good face, on ${prints}${takeOffs === 0 ? ` and ${fit.readings} tiles` : `, ${fit.readings} readings`}.`
}
