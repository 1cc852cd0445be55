import type { Learnt } from '../decide'
import type { Estimate } from '../estimate'
import type { Interval } from '../trial'

/** Grams as planned, and as what was weighed of other prints has it. */
export type CorrectedGrams = {
  readonly plannedG: number
  readonly g: Interval
  readonly cost: number
  readonly filaments: readonly {
    readonly id: string
    readonly name: string
    readonly plannedG: number
    readonly g: Interval
  }[]
}

/** An estimate put right by what was weighed; null when nothing of its filaments was. */
export function correctedGrams(
  { filaments, massG }: Pick<Estimate, 'filaments' | 'massG'>,
  learnt: Learnt | undefined,
): CorrectedGrams | null {
  const rows = filaments.map(({ id, name, g, cost }) => {
    const factor = learnt?.grams.find(({ filament }) => filament === id)?.factor ?? null
    const times = (by: number) => g * by
    return {
      id,
      name,
      plannedG: g,
      cost: cost * (factor?.median ?? 1),
      known: factor !== null,
      g: { median: times(factor?.median ?? 1), low: times(factor?.low ?? 1), high: times(factor?.high ?? 1) },
    }
  })
  if (!rows.some(({ known }) => known)) return null
  const sum = (of: keyof Interval) => rows.reduce((total, { g }) => total + g[of], 0)
  // Errors of several filaments seldom fall together.
  const median = sum('median')
  const wide = (of: 'low' | 'high') => Math.hypot(...rows.map(({ g }) => g[of] - g.median))
  return {
    plannedG: massG,
    g: { median, low: median - wide('low'), high: median + wide('high') },
    cost: rows.reduce((total, { cost }) => total + cost, 0),
    filaments: rows
      .filter(({ known }) => known)
      .map(({ id, name, plannedG, g }) => ({ id, name, plannedG, g })),
  }
}
