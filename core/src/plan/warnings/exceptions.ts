import type { PlanDocument, Where } from '../../decide'
import { mm, note, warning, type PlanWarning, type Warned } from './warning'

/** Exceptions that rule nothing as they stand: they may have been meant for another pose, limit or part. */
export function exceptionWarnings({ document, groups }: Warned): PlanWarning[] {
  return document.exceptions.flatMap(({ where }, e) => {
    if (groups[e + 1].patches.size > 0) return []
    const message = `The exception for ${named(where, document)} rules nothing: nothing there needs holding, or a later exception rules it.`
    // A plan for many parts may well speak of kinds that one of them does not have.
    return 'kind' in where
      ? [note('EXCEPTION_IDLE', message)]
      : [warning('EXCEPTION_IDLE', message, { ...('contact' in where && { atMm: where.contact }) })]
  })
}

function named(where: Where, { zones }: PlanDocument): string {
  if ('kind' in where) return where.kind === 'tip' ? 'tips' : `${where.kind} undersides`
  if ('zone' in where) return `the zone “${zones.find(({ id }) => id === where.zone)?.name ?? where.zone}”`
  const [x, y, z] = where.contact.map(mm)
  return `the underside around ${x}, ${y} at ${z} height`
}
