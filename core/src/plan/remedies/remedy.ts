import type { Exception, Holding, PlanChange, PlanDocument } from '../../decide'
import type { Contact } from '../planResult'

/** A change of a plan that would put something right. */
export type PlanRemedy = { readonly words: string; readonly change: PlanChange }

/** A remedy that changes values of the letter. */
export const decide = (words: string, decisions: PlanChange['decisions']): PlanRemedy => ({
  words,
  change: { decisions },
})

/**
 * A remedy that changes how something is held, in the sentence that rules it.
 * @param sentence the exception that does; null for the letter
 * @param more changes of the letter as well
 */
export function holdOtherwise(
  { exceptions }: PlanDocument,
  sentence: number | null,
  words: string,
  values: Partial<Holding>,
  more?: PlanChange['decisions'],
): PlanRemedy {
  if (sentence === null) return decide(words, { ...more, ...values })
  const changed = exceptions.map((one, i) => (i === sentence ? { ...one, ...values } : one))
  return { words, change: { ...(more && { decisions: more }), exceptions: changed } }
}

/** An exception for each of some undersides: as they are held now, but for these values. */
export function exceptionsFor(
  { exceptions }: PlanDocument,
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

/** The exception that rules all of some undersides; null when that is the letter, or several of them do. */
export function ruledBy(contacts: readonly Contact[]): number | null {
  const [first] = contacts
  return first && first.holding > 0 && contacts.every(({ holding }) => holding === first.holding)
    ? first.holding - 1
    : null
}
