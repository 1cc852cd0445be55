import { undersidesOf } from '../../decide'
import { note, warning, type PlanWarning, type Warned } from './warning'

/** Exceptions that rule nothing as they stand: they may have been meant for another pose, limit or part. */
export function exceptionWarnings({ document, groups }: Warned): PlanWarning[] {
  return document.exceptions.flatMap(({ where }, e) => {
    if (groups[e + 1].patches.size > 0) return []
    const message = `The exception for ${undersidesOf(where, document)} rules nothing: nothing there needs holding, or a later exception rules it.`
    // A plan for many parts may well speak of kinds that one of them does not have.
    return 'kind' in where
      ? [note('EXCEPTION_IDLE', message)]
      : [warning('EXCEPTION_IDLE', message, { ...('contact' in where && { atMm: where.contact }) })]
  })
}
