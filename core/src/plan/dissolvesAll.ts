import { factsOf, filamentOf } from '../bench'
import { bookOf, type PlanDocument } from '../decide'

/** Whether everything that holds the part dissolves in something that leaves the part as it is. */
export function dissolvesAll(document: PlanDocument): boolean {
  const { partFilament, standFilament, interfaceFilament } = document.decisions
  const liquidOf = (id: string) =>
    factsOf(filamentOf(document.filaments, id).family, bookOf(document)).dissolvesIn
  const eatsPart = liquidOf(partFilament)
  const exceptions = document.exceptions.flatMap((one) => [one.standFilament, one.interfaceFilament])
  return [standFilament, interfaceFilament, ...exceptions].every((id) => {
    const liquid = id === undefined ? undefined : liquidOf(id)
    return liquid === undefined || (liquid !== null && liquid !== eatsPart)
  })
}
