import { leftoverLimit, leftoverShare, type PlanDocument } from '../decide'
import type { Print } from '../print'
import type { Purges } from './planResult'

/** What a plan's swaps purge, where it goes, and what is left of one filament in the part all the same. */
export function purgesOf({ tower, purged = [], slots, towerTrouble }: Print, document: PlanDocument): Purges {
  const sum = (of: 'towerMm3' | 'chuteMm3' | 'laidAnywayMm3') => purged.reduce((all, one) => all + one[of], 0)
  const { decisions, evidence } = document
  return {
    tower: tower ?? null,
    towerTrouble: towerTrouble ?? null,
    towerMm3: sum('towerMm3'),
    chuteMm3: sum('chuteMm3'),
    laidAnywayMm3: sum('laidAnywayMm3'),
    leftovers: purged.flatMap(({ zMm, from, to, wantedMm3 }) => {
      const [old, own] = [slots[from].id, slots[to].id]
      if (own !== decisions.partFilament) return []
      const share = leftoverShare(evidence.purgeMm3, old, own, wantedMm3)
      return share !== null && share > leftoverLimit(document, old, own) ? [{ zMm, of: old, share }] : []
    }),
  }
}
