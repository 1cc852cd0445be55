import { EMPTY_REGION, isEmptyRegion, regionAreaMm2, type Region } from '../polygon'
import { SAME_HEIGHT_MM } from '../tolerances'
import type { Contact } from './contacts'
import { lowestInterface, type Lattice, type Span } from './lattice'
import { printable } from './printable'
import type { StandInput } from './standInput'
import { TOUCH_MM } from './straightColumns'
import type { Held, UnheldReason } from './supports'

/** What of each contact is reached, and why not the rest. */
export function heldBy(
  contacts: readonly Contact[],
  columns: readonly Region[],
  { engine, levels, rules, outlines, lineWidthMm }: StandInput,
  lattice: Lattice,
  achievedMm: number,
): Map<number, Held> {
  const held = new Map<number, Held>()
  for (const { layerIndex, topLevel, wanted, contact, top } of contacts) {
    const fits = lattice.canEnd(topLevel)
    const reached = fits ? engine.common(contact, columns[topLevel]) : EMPTY_REGION
    const [wantedMm2, contactMm2, reachedMm2] = [wanted, contact, reached].map(regionAreaMm2)
    const underMm = levels.zOf(layerIndex)
    const unheld: Partial<Record<UnheldReason, number>> = {}
    if (!fits) unheld['no room'] = wantedMm2
    else {
      if (wantedMm2 - contactMm2 > 1e-3) unheld['beside a wall'] = wantedMm2 - contactMm2
      const missed = contactMm2 - reachedMm2
      // With a gap thinner than a layer the layer below stands right beside the support.
      const beside =
        missed > 1e-3 && achievedMm < levels.heightMm - SAME_HEIGHT_MM
          ? regionAreaMm2(
              engine.common(engine.minus(contact, reached), outlines.grown(layerIndex - 1, TOUCH_MM + 1e-3)),
            )
          : 0
      if (beside > 1e-3) unheld['beside the layer below'] = Math.min(beside, missed)
      const isNarrow = isEmptyRegion(reached) && isEmptyRegion(printable(top, lineWidthMm, engine).kept)
      if (missed - beside > 1e-3) unheld[isNarrow ? 'too narrow' : 'no way down'] = missed - beside
    }
    const deviates = Math.abs(achievedMm - rules.upperGapMm) > SAME_HEIGHT_MM
    held.set(layerIndex, {
      layerIndex,
      wanted,
      reached,
      topMm: underMm - achievedMm,
      gapMm: rules.upperGapMm,
      achievedGapMm: achievedMm,
      why: deviates
        ? `Sharing the part's ${levels.heightMm} mm layers, the gap can only be a multiple of ${levels.heightMm} mm.`
        : null,
      unheldMm2: unheld,
      stack: fits ? stackBelow(topLevel, rules.interfaceLayers, lattice) : [],
      drawn: false,
    })
  }
  return held
}

/** Stand layers that are told of a stack. */
const STAND_LAYERS_TOLD = 3

/** The layers right below a top, from below: its interface, and some of the stand. */
function stackBelow(topLevel: number, interfaceLayers: number, lattice: Lattice): Held['stack'] {
  const lowest = lowestInterface(topLevel, interfaceLayers, lattice)
  const end = lattice.endAt(topLevel)
  const stack: Held['stack'][number][] = []
  const goesOn = () => stack.filter(({ role }) => role === 'stand').length < STAND_LAYERS_TOLD
  const lay = (spans: readonly Span[], level: number) => {
    const role = level >= lowest ? ('interface' as const) : ('stand' as const)
    for (const span of spans.toReversed()) if (goesOn()) stack.push({ role, ...span })
  }
  let level = topLevel
  if (end) {
    lay(end.spans, topLevel)
    level = end.fromLevel - 1
  }
  for (; level >= 0 && goesOn(); level--) {
    if (level === lattice.shiftedFrom - 1) {
      lay(lattice.merged, level)
      level = lattice.mergedFrom
    } else lay([lattice.spanOf(level)], level)
  }
  return stack.reverse()
}
