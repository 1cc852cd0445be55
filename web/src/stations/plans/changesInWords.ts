import { SPOKEN_FOR, type Evidence, type PlanDocument, type SpokenFor } from '@tender/core/decide'
import { NUMBERS } from './catalogue'

/** What would change in a plan if it took the readings of today, in words. */
export function changesInWords(document: PlanDocument, newer: Partial<Record<SpokenFor, Evidence>>): string {
  return SPOKEN_FOR.flatMap((name) => {
    const [then, now] = [document.evidence[name], newer[name]]
    if (!then || !now) return []
    const { label, show } = NUMBERS[name]
    if (then.value === now.value)
      return [`${label} stays at ${show(now.value)}, now on ${now.readings} readings`]
    const own = document.decisions[name] !== then.value ? ' (yours stays)' : ''
    return [`${label} ${show(then.value)} becomes ${show(now.value)}${own}`]
  }).join('; ')
}
