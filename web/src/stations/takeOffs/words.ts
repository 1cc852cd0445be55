import type { StoredNote, StoredTakeOff, TakeOffNote } from '@tender/contract'
import { WHOLE } from '@tender/contract'
import type { PrintedContact } from '@tender/core/takeOff'
import { FINISH_GRADES, RELEASE_GRADES } from '@tender/core/trial'
import { counted, gapMm, inUnit, mm } from '../../format/numbers'

/** A contact by what it is and where. */
export const contactName = ({ kind, atMm }: Pick<PrintedContact, 'kind' | 'atMm'>): string =>
  `${kind} underside at ${mm(atMm[2])}`

/** What a maker would say of a contact's making. */
export const contactFacts = (contact: PrintedContact, nameOf: (id: string) => string): string =>
  `${gapMm(contact.achievedGapMm)} left over ${nameOf(contact.touching)}${
    contact.touching === contact.bulk ? '' : ` on ${nameOf(contact.bulk)}`
  }, ${inUnit(contact.areaMm2, 'mm²')}, ${counted(contact.interfaceLayers, 'interface layer')}`

/** A record in one sentence: how far it is, and how it went. */
export function recordSentence({ printed, notes }: Pick<StoredTakeOff, 'printed' | 'notes'>): string {
  const read = notes.filter(
    ({ at, release, finish, leftOut }) => at !== WHOLE && !leftOut && (release !== null || finish !== null),
  )
  const all = printed.contacts.length
  if (all === 0) return 'Nothing of it was held.'
  if (read.length === 0)
    return all === 1 ? 'Its one contact is not read yet.' : `None of ${all} contacts read yet.`
  const graded = read.filter(({ release }) => release !== null)
  const clean = graded.filter(({ release }) => release! <= 2).length
  const fine = read.filter(({ finish }) => finish !== null && finish <= 3).length
  const faces = read.filter(({ finish }) => finish !== null).length
  const says = [
    graded.length > 0 && `${clean} of ${graded.length} came off by hand or by themselves`,
    faces > 0 && `${fine} of ${counted(faces, 'face')} ${faces === 1 ? 'is' : 'are'} fine`,
  ].filter(Boolean)
  const left = all - read.length
  return `${says.join(', ')}${left > 0 ? `; ${left} not read yet` : ''}.`
}

/** What was noted, in words, field by field. */
export function noteInWords(changes: Partial<StoredNote>): string {
  const word = (words: readonly string[], grade: number | null) =>
    grade === null ? 'not read' : words[grade - 1]
  const grams = (value: number | null, what: string) =>
    value === null ? `${what} not weighed` : `${what} ${inUnit(value, 'g')}`
  return [
    changes.release !== undefined && `came off ${word(RELEASE_GRADES, changes.release)}`,
    changes.finish !== undefined && `face ${word(FINISH_GRADES, changes.finish)}`,
    changes.stayed !== undefined &&
      (changes.stayed === null ? 'not said what stayed' : `${changes.stayed} of the interface stayed`),
    changes.specks !== undefined && `specks: ${changes.specks ?? 'not said'}`,
    changes.damage !== undefined && `damage: ${changes.damage ?? 'not said'}`,
    changes.damageWhere !== undefined && `where “${changes.damageWhere}”`,
    changes.leftOut !== undefined && (changes.leftOut ? 'left out' : 'counted'),
    changes.note !== undefined && `note “${changes.note}”`,
    changes.tool !== undefined && `with ${changes.tool ?? 'nothing named'}`,
    changes.minutes !== undefined &&
      (changes.minutes === null ? 'no minutes' : inUnit(changes.minutes, 'min')),
    changes.partG !== undefined && grams(changes.partG, 'part'),
    changes.wasteG !== undefined && grams(changes.wasteG, 'waste'),
  ]
    .filter(Boolean)
    .join(', ')
}

/** What a contact that nobody has read holds. */
export const NOTHING_ON_CONTACT: Partial<TakeOffNote> = {
  release: null,
  finish: null,
  stayed: null,
  specks: null,
  damage: null,
  damageWhere: '',
  note: '',
}
