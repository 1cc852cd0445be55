import { filamentOf } from '../bench'
import { requireInRange } from '../errors'
import { DECISION_RANGES, type NumberDecision, type PlanDocument } from './decisions'

/**
 * Refuses a document that no plan can be made of.
 * @throws TenderError VALUE_OUT_OF_RANGE, FILAMENT_UNKNOWN
 */
export function checkDocument({ decisions, filaments, pose }: PlanDocument): void {
  for (const [name, [low, high]] of Object.entries(DECISION_RANGES)) requireInRange(name, decisions[name as NumberDecision], low, high, '')
  requireInRange('scale', pose.scale, 1e-4, 1e5, '')
  pose.turn.forEach((value) => requireInRange('turn', value, -1.0001, 1.0001, ''))
  for (const name of [decisions.partFilament, decisions.standFilament, decisions.interfaceFilament]) filamentOf(filaments, name)
}
