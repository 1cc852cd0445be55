import type { Region } from '../polygon'
import { discsOf } from './branching/section'
import type { Lattice } from './lattice'
import { gapLevels } from './levels'
import type { StandInput } from './standInput'
import type { SupportPass } from './supports'

const NO_ROUNDS = new Float64Array(0)

/** Branches that stand alone at a level, as one region. */
export const discsAt = (rounds: readonly Float64Array[], level: number): Region =>
  discsOf(rounds[level] ?? NO_ROUNDS)

/** Branches that stand alone, level by level. */
export function roundPasses(
  { holding, rules, levels }: StandInput,
  rounds: readonly Float64Array[],
  lattice: Lattice,
): SupportPass[] {
  const { free } = gapLevels(rules.upperGapMm, levels.heightMm, rules.stackMode)
  const passes: SupportPass[] = []
  rounds.forEach((round, k) => {
    if (round.length === 0) return
    const merged = k >= lattice.mergedFrom && k < lattice.shiftedFrom
    // Levels that are laid together are alike: the last of them stands for all.
    if (merged && k !== lattice.shiftedFrom - 1) return
    for (const span of merged ? lattice.merged : [lattice.spanOf(k)])
      passes.push({
        role: 'stand',
        fill: 'rounds',
        holding,
        ...span,
        region: discsOf(round),
        rounds: round,
        facesLayer: k + 1 + free,
      })
  })
  return passes
}
