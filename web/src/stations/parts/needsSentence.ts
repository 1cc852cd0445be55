import { counted, three } from '../../format/numbers'
import type { NeedsReport } from '../../workers/partWork'

/** What is found, in one or two sentences. */
export function needsSentence({ holdMm2, patches, islands, bridges }: NeedsReport): string {
  const free = bridges.filter((bridge) => bridge.free).length
  const spans =
    free > 0 ? ` ${counted(free, 'bridge')} ${free === 1 ? 'is' : 'are'} short enough to stay free.` : ''
  if (patches.length === 0) return `Nothing needs holding as it lies.${spans}`
  const closed = patches.filter(({ access }) => access === 'closed').length
  return `${three(holdMm2)} mm² need holding, in ${counted(patches.length, 'patch', 'patches')}${islands.length > 0 ? `; ${counted(islands.length, 'island')} ${islands.length === 1 ? 'starts' : 'start'} in mid-air` : ''}.${closed > 0 ? ` No tool reaches ${closed === 1 ? 'one' : closed} of them from the side.` : ''}${spans}`
}
