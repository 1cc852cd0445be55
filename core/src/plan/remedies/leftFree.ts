import type { PlanDocument } from '../../decide'
import type { Contact } from '../planResult'
import { exceptionsFor, type PlanRemedy } from './remedy'

/** Some undersides left free, each of them alone. */
export function leftFree(document: PlanDocument, held: readonly Contact[]): PlanRemedy[] {
  if (held.length === 0) return []
  return [
    {
      words: held.length === 1 ? 'leave that underside free' : `leave ${held.length} undersides there free`,
      change: exceptionsFor(document, held, { supports: false }),
    },
  ]
}
