import type { PlanResult, PlanSummary } from './planResult'
import { planBounds, sectionOf, type Section } from './views'

/** Something that can be cut: what a section and a layer drawing need to know of it. */
export type Cuttable = {
  /** What its section and its layers are asked by. */
  readonly id: string
  readonly bounds: ReturnType<typeof planBounds>
  readonly heightMm: number
  readonly undersides: number
}
/** A plan that was worked out, as a view shows it. */
export type Outcome = Cuttable & { readonly summary: PlanSummary }

export const outcomeOf = ({ id, summary, geometry }: PlanResult): Outcome => ({
  id,
  summary,
  bounds: planBounds(geometry),
  heightMm: summary.heightMm,
  undersides: summary.contacts.length,
})

/** What is shown of a plan before it is worked out again: its numbers, and its two usual sections. */
export type KeptOutcome = Outcome & {
  /** By their direction, in degrees. */
  readonly sections: Readonly<Record<number, Section>>
}

/** @param key what it is kept under */
export const keptOutcomeOf = (result: PlanResult, key: string): KeptOutcome => ({
  ...outcomeOf(result),
  id: keptId(key),
  sections: { 0: sectionOf(result.geometry, 0, 0), 90: sectionOf(result.geometry, 90, 0) },
})

/** What was kept goes by a name that no result has. */
export const keptId = (key: string): string => `kept ${key}`
