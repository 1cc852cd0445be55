import { filamentOf } from '../../bench'
import { mm } from '../inWords'
import { decide } from '../remedies'
import { warning, type PlanWarning, type Warned } from './warning'

/** What swaps leave behind, and a tower that does not stand where it was asked for. */
export function purgeWarnings({ document, purges }: Warned): PlanWarning[] {
  const { filaments, evidence, printer } = document
  const { leftovers, towerTrouble } = purges
  const found: PlanWarning[] = []
  if (towerTrouble === 'no room')
    found.push(
      warning(
        'TOWER_NO_ROOM',
        `Beside the part there is no room for a prime tower on the bed of ${printer.name}; what is purged is left to the printer’s swap block.`,
      ),
    )
  if (towerTrouble === 'in the way')
    found.push(
      warning(
        'TOWER_IN_THE_WAY',
        'Where you put it, the prime tower would stand in the part or its stands; it is printed where there is room.',
        { remedies: [decide('put it where there is room', { towerAtMm: null })] },
      ),
    )
  if (leftovers.length > 0) {
    const most = leftovers.reduce((a, b) => (b.share > a.share ? b : a))
    const enough = evidence.purgeMm3?.value
    found.push(
      warning(
        'LEFTOVERS',
        `After ${leftovers.length === 1 ? 'one swap' : `${leftovers.length} swaps`}, the lowest at ${mm(leftovers[0].zMm)}, the part begins with about ${Math.round(100 * most.share)} % of ${filamentOf(filaments, most.of).name} in it, by the purge ladders; it may show or break there.`,
        enough !== undefined
          ? { remedies: [decide(`purge ${Math.round(enough)} mm³ before the part`, { purgeMm3: enough })] }
          : {},
      ),
    )
  }
  return found
}
