import type { PlanDocument, Where } from '../../decide'
import { mm } from './warning'

/** The undersides that an exception is about, as sentences name them. */
export function undersidesOf(where: Where, { zones }: PlanDocument): string {
  if ('kind' in where) return where.kind === 'tip' ? 'tips' : `${where.kind} undersides`
  if ('zone' in where) return `the zone “${zones.find(({ id }) => id === where.zone)?.name ?? where.zone}”`
  const [x, y, z] = where.contact.map(mm)
  return `the underside around ${x}, ${y} at ${z} height`
}
