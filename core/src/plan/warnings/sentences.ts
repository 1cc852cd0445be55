import { holdingUnder, undersidesOf, type Holding } from '../../decide'
import type { Contact } from '../planResult'
import type { Warned } from './warning'

/** What a sentence of a plan holds, and how: its letter, or one of its exceptions. */
export type Sentence = {
  /** Of the exception; null for the letter. */
  readonly index: number | null
  readonly holding: Holding
  readonly contacts: readonly Contact[]
  /** How a message about it begins; empty for the letter. */
  readonly under: string
}

/** The sentences of a plan that hold something; posts are held as the letter says. */
export function sentencesOf({
  document,
  groups,
  contacts,
}: Pick<Warned, 'document' | 'groups' | 'contacts'>): Sentence[] {
  const { decisions, exceptions } = document
  const ruled = new Map<number | null, Contact[]>()
  for (const contact of contacts) {
    if (contact.areaMm2 === 0) continue
    const index = groups[contact.holding].kind === 'exception' ? contact.holding - 1 : null
    ruled.set(index, [...(ruled.get(index) ?? []), contact])
  }
  return [...ruled]
    .sort(([a], [b]) => (a ?? -1) - (b ?? -1))
    .map(([index, own]) => ({
      index,
      holding: index === null ? decisions : holdingUnder(decisions, exceptions[index]),
      contacts: own,
      under: index === null ? '' : `Under ${undersidesOf(exceptions[index].where, document)}: `,
    }))
}

/** A message of ours (it begins with no name) after what it is about. */
export const after = (under: string, message: string): string =>
  under === '' ? message : under + message.charAt(0).toLowerCase() + message.slice(1)
