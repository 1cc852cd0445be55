import { factsOf, filamentOf } from '../bench'
import { bookOf, type PlanDocument } from '../decide'

/** Whether everything that holds the part dissolves in something. */
export function dissolvesAll(document: PlanDocument): boolean {
  const { standFilament, interfaceFilament } = document.decisions
  const exceptions = document.exceptions.flatMap((one) => [one.standFilament, one.interfaceFilament])
  return [standFilament, interfaceFilament, ...exceptions].every(
    (id) =>
      id === undefined ||
      factsOf(filamentOf(document.filaments, id).family, bookOf(document)).dissolvesIn !== null,
  )
}
