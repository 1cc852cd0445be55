import { orderSwaps } from './orderSwaps'
import type { Sweep } from './print'

/**
 * Sweeps in the order of printing.
 * @param groups each is printed before the next; within one, filament after filament in the order of fewest
 * swaps, and what each of them prints in the order given
 */
export function orderSweeps(groups: readonly (readonly Sweep[])[]): Sweep[] {
  const filled = groups.filter((group) => group.length > 0)
  const { order } = orderSwaps(filled.map((group) => [...new Set(group.map(({ slot }) => slot))]))
  return filled.flatMap((group, g) =>
    order[g].flatMap((slot) => group.filter((sweep) => sweep.slot === slot)),
  )
}

/** Sweeps that end at one height, from the bed upwards; each group keeps the order given. */
export function byHeight(sweeps: readonly Sweep[], sameMm: number): Sweep[][] {
  const groups: Sweep[][] = []
  for (const sweep of sweeps.toSorted((a, b) => a.topMm - b.topMm)) {
    const last = groups.at(-1)
    if (last && sweep.topMm - last[0].topMm < sameMm) last.push(sweep)
    else groups.push([sweep])
  }
  return groups
}
