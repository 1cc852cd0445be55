import type { UnheldReason } from '../../stand'
import { mm } from '../inWords'
import { decide } from '../remedies'
import { error, note, warning, type PlanWarning, type Warned } from './warning'

/** Why something stays free, in words. */
export const UNHELD_WORDS: Readonly<Record<UnheldReason, string>> = {
  'no room': 'too close to the bed for a layer of support',
  'beside a wall': 'nearer to an upright wall than the side gap',
  'no way down': 'with no way down to what a stand may rest on',
  'beside the layer below': 'beside the layer below, which a support at this gap would touch',
  'too narrow': 'narrower than a line',
  'left free': 'left free, as the letter says',
}

/** Strips along what the part itself has there: its lines lean on that. */
const LEANS_ON_THE_PART: readonly UnheldReason[] = ['beside a wall', 'beside the layer below']
/** Shares of what should be held that are told when they stay free. */
const MUCH = 0.03
const VERY_MUCH = 0.1

const ON_THE_PART = decide('let stands rest on the part', { placement: 'anywhere' })

/** What hangs though it should be held. */
export function heldWarnings({ document, contacts, islands }: Warned): PlanWarning[] {
  const { decisions: d } = document
  const found: PlanWarning[] = []
  const loose = islands.filter((island) => !island.held)
  if (!d.supports && (contacts.length > 0 || islands.length > 0))
    found.push(
      error(
        'SUPPORTS_OFF',
        `Supports are switched off, yet ${counted(contacts.length, 'underside leans', 'undersides lean')} past ${d.freeAngleDeg}°${islands.length > 0 ? ` and ${counted(islands.length, 'island starts', 'islands start')} in mid-air` : ''}.`,
        { remedies: [decide('switch supports on', { supports: true })] },
      ),
    )
  else if (loose.length > 0)
    found.push(
      error(
        'ISLAND_NOT_HELD',
        `${islands.length === 1 ? 'The one island' : `${loose.length} of ${islands.length} islands`} ${loose.length === 1 ? 'starts in mid-air,' : 'start in mid-air, the first'} at ${mm(loose[0].zMm)}.${loose[0].keptOffBy ? ` The keep-off zone “${loose[0].keptOffBy}” leaves it so.` : ''}${d.placement === 'bed' ? ' Letting stands rest on the part would reach more.' : ''}`,
        {
          atMm: [...loose[0].atMm, loose[0].zMm],
          ...(d.placement === 'bed' && { remedies: [ON_THE_PART] }),
        },
      ),
    )
  const wanted = contacts.reduce((sum, { wantedMm2 }) => sum + wantedMm2, 0)
  const held = contacts.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)
  const reasons = new Map<UnheldReason, number>()
  for (const { unheldMm2 } of contacts)
    for (const [why, mm2] of Object.entries(unheldMm2) as [UnheldReason, number][])
      reasons.set(why, (reasons.get(why) ?? 0) + mm2)
  const leaning = LEANS_ON_THE_PART.reduce((sum, why) => sum + (reasons.get(why) ?? 0), 0)
  // What an exception leaves free is no surprise.
  const hanging = wanted - held - leaning - (reasons.get('left free') ?? 0)
  if (d.supports && wanted > 0 && (hanging > MUCH * wanted || leaning > VERY_MUCH * wanted)) {
    const named = [...reasons]
      .filter(([, mm2]) => mm2 > 0.005 * wanted)
      .sort((a, b) => b[1] - a[1])
      .map(([why, mm2]) => `${area(mm2)} ${UNHELD_WORDS[why]}`)
    const most = contacts.reduce((a, b) => (b.wantedMm2 - b.areaMm2 > a.wantedMm2 - a.areaMm2 ? b : a))
    found.push(
      (hanging > MUCH * wanted ? warning : note)(
        'OVERHANG_NOT_HELD',
        `${shareOf(hanging + leaning, wanted)} that lean past ${d.freeAngleDeg}° stay free${named.length > 0 ? `: ${named.join('; ')}` : ''}.${d.placement === 'bed' && reasons.has('no way down') ? ' Stands may only rest on the bed.' : ''}`,
        {
          atMm: [...most.atMm, most.zMm],
          ...(d.placement === 'bed' && reasons.has('no way down') && { remedies: [ON_THE_PART] }),
        },
      ),
    )
  }
  return found
}

const area = (mm2: number): string => `${mm2 < 10 ? mm2.toFixed(1) : Math.round(mm2)} mm²`
const shareOf = (mm2: number, all: number): string =>
  area(mm2) === area(all) ? `All ${area(all)}` : `${area(mm2)} of ${area(all)}`
const counted = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`
