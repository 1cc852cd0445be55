import type { Mark } from '../../../drawings/space/Marks'
import { three } from '../../../format/numbers'
import type { NeedsReport, Wounds } from '../../../workers/partWork'

const SHELLS = {
  speck: { sign: '·', called: 'A speck' },
  nested: { sign: '⊙', called: 'A shell inside another one' },
  hollow: { sign: '○', called: 'A hollow' },
} as const

/** At most so many islands are numbered in the picture; all are in the list beside it. */
const MOST_ISLANDS = 60

/**
 * What is marked on the part: what is wrong with its shells while that is read, else where it starts in
 * mid-air.
 */
export function stageMarks(shells: Wounds['places'], islands: NeedsReport['islands']): Mark[] {
  if (shells.length > 0)
    return shells.map(({ kind, atMm: at, sizeMm }, i) => ({
      key: `shell ${i}`,
      text: SHELLS[kind].sign,
      label: `${SHELLS[kind].called}, ${three(sizeMm)} mm long, ${at[2].toFixed(2)} mm up`,
      atMm: at,
      strong: kind === 'speck',
    }))
  return islands.slice(0, MOST_ISLANDS).map(({ atMm: at, areaMm2 }, i) => ({
    key: `island ${i}`,
    text: String(i + 1),
    label: `Island ${i + 1} of ${islands.length}, ${at[2].toFixed(2)} mm up, ${three(areaMm2)} mm²`,
    atMm: at,
    strong: true,
  }))
}
