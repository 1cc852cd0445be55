import { wavering, type Pushed, type StandSeen } from '../../release'
import type { PlanDocument } from '../../decide'
import type { HoldingGroup } from '../assign'
import { holdingOf } from '../planPrint'
import type { Contact } from '../planResult'
import { leftFree } from './leftFree'
import { ruledBy, type PlanRemedy } from './remedy'
import { steadier, type FeetWith } from './steadier'
import { weaker } from './weaker'

/** What would put right what there is to mind about one stand; the cheapest of a kind first. */
export function remediesOfStand(
  { check, holds, steady, tears }: StandSeen<{ readonly contact: Contact }>,
  document: PlanDocument,
  groups: readonly HoldingGroup[],
  feetWith: FeetWith,
): PlanRemedy[] {
  const contacts = holds.map(({ contact }) => contact)
  const strong = [...tears].map(([{ contact }, times]) => ({ contact, times }))
  const alike = strong.filter(({ contact }) => contact.holding === strong[0].contact.holding)
  const isLockedIn = check.verdict === 'locked in'
  return [
    ...(isLockedIn ? leftFree(document, contacts) : []),
    ...(steady ? held(wavering(steady)) : []),
    // What is locked in is not pulled off.
    ...(alike.length > 0 && !isLockedIn
      ? weaker(document, alike, holdingOf(document, groups[alike[0].contact.holding]))
      : []),
  ]

  function held(weak: readonly Pushed[]) {
    return weak.length > 0 ? steadier(weak, ruledBy(contacts), document, feetWith).remedies : []
  }
}
