import { plainFilament, type Filament } from '../bench'
import { DEFAULT_PLAN, type Decisions, type PlanDocument } from '../decide'

export const aFilament = (changes: Partial<Filament> = {}): Filament => ({
  ...plainFilament('Chalk PLA', 'PLA', '#d8d3c8'),
  ...changes,
})

/** A plan in one filament; what a test names is changed. */
export function aPlan(
  decisions: Partial<Decisions> = {},
  rest: Partial<Omit<PlanDocument, 'decisions'>> = {},
): PlanDocument {
  const filaments = rest.filaments ?? [aFilament()]
  const name = filaments[0].name
  return {
    ...DEFAULT_PLAN,
    ...rest,
    filaments,
    decisions: {
      ...DEFAULT_PLAN.decisions,
      partFilament: name,
      standFilament: name,
      interfaceFilament: name,
      ...decisions,
    },
  }
}
