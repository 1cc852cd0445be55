/**
 * Orders the filaments within each height so that neighbouring heights share one (A B | B A | A B).
 * @param groups filaments used at each height, from the bed upwards; each list without repeats and not empty
 * @returns the order to print them in, with the fewest swaps possible
 * Source: shortest path over "which filament is loaded after this height"; leaving the first filament loaded
 * costs nothing.
 */
export function orderSwaps(groups: readonly (readonly number[])[]): {
  readonly order: number[][]
  readonly swaps: number
} {
  if (groups.length === 0) return { order: [], swaps: 0 }
  /**
   * For each height, per last filament: fewest swaps so far, the first filament of this height, the last one
   * of the height before.
   */
  type Step = { cost: number; first: number; before: number }
  const steps: Map<number, Step>[] = []
  groups.forEach((group, g) => {
    const here = new Map<number, Step>()
    const previous = g === 0 ? null : steps[g - 1]
    for (const last of group) {
      for (const first of group) {
        if (group.length > 1 && first === last) continue
        const inside = group.length - 1
        if (!previous) consider(here, last, { cost: inside, first, before: first })
        else
          for (const [before, step] of previous)
            consider(here, last, { cost: step.cost + (before === first ? 0 : 1) + inside, first, before })
      }
    }
    steps.push(here)
  })
  let [last, best] = [...steps.at(-1)!].reduce((a, b) => (b[1].cost < a[1].cost ? b : a))
  const swaps = best.cost
  const order: number[][] = []
  for (let g = groups.length - 1; g >= 0; g--) {
    best = steps[g].get(last)!
    const middle = groups[g].filter((filament) => filament !== best.first && filament !== last)
    order.push(groups[g].length === 1 ? [last] : [best.first, ...middle, last])
    last = best.before
  }
  return { order: order.reverse(), swaps }

  function consider(into: Map<number, Step>, key: number, step: Step): void {
    const known = into.get(key)
    if (!known || step.cost < known.cost) into.set(key, step)
  }
}
