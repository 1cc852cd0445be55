import { filamentOf } from '../bench'
import { requireInRange } from '../errors'
import { DECISION_RANGES, type NumberDecision } from './decisions'
import type { PlanDocument } from './document'

/**
 * Refuses a document that no plan can be made of.
 * @throws TenderError VALUE_OUT_OF_RANGE, FILAMENT_UNKNOWN
 */
export function checkDocument({ decisions, exceptions, posts, filaments, pose }: PlanDocument): void {
  const ranges = Object.entries(DECISION_RANGES) as [NumberDecision, readonly [number, number, number]][]
  for (const [name, [low, high]] of ranges) requireInRange(name, decisions[name], low, high, '')
  requireInRange('scale', pose.scale, 1e-4, 1e5, '')
  pose.turn.forEach((value) => requireInRange('turn', value, -1.0001, 1.0001, ''))
  for (const id of [decisions.partFilament, decisions.standFilament, decisions.interfaceFilament])
    filamentOf(filaments, id)
  for (const exception of exceptions) {
    for (const [name, [low, high]] of ranges) {
      const value = exception[name as keyof typeof exception]
      if (typeof value === 'number') requireInRange(name, value, low, high, '')
    }
    for (const id of [exception.standFilament, exception.interfaceFilament])
      if (id !== undefined) filamentOf(filaments, id)
  }
  for (const { atMm, widthMm } of posts) {
    requireInRange('widthMm', widthMm, 0.3, 100, 'mm')
    atMm.forEach((value) => requireInRange('atMm', value, -1e5, 1e5, 'mm'))
  }
}
