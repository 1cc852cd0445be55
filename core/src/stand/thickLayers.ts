import { isEmptyRegion, type PolygonEngine } from '../polygon'
import { SAME_HEIGHT_MM } from '../tolerances'
import type { SupportPass } from './supports'

/**
 * Joins neighbouring stand layers to one twice as thick, where the nozzle can lay it and the two differ by
 * less than a line: nobody looks at a stand, and half the layers take half the time.
 * @param passes of one holding, from the bed upwards
 */
export function thickLayers(
  passes: readonly SupportPass[],
  thickestMm: number,
  lineWidthMm: number,
  engine: PolygonEngine,
): SupportPass[] {
  const out: SupportPass[] = []
  /** The last stand layer that stays single, waiting for the one above it. */
  let open: { at: number; pass: SupportPass } | null = null
  for (const pass of passes) {
    if (pass.role === 'stand' && pass.fill === 'stand') {
      const below = open?.pass
      if (
        below &&
        Math.abs(below.topMm - pass.bottomMm) < SAME_HEIGHT_MM &&
        pass.topMm - below.bottomMm <= thickestMm + SAME_HEIGHT_MM &&
        differsByLess(below, pass, lineWidthMm, engine)
      ) {
        out[open!.at] = { ...pass, bottomMm: below.bottomMm }
        // What takes the place of two is laid where the upper one was; the order by height is made anew
        // below.
        open = null
        continue
      }
      open = { at: out.length, pass }
    }
    out.push(pass)
  }
  return out.toSorted((a, b) => a.topMm - b.topMm)
}

/** Whether nothing of either could hold a line beside what they share. */
function differsByLess(a: SupportPass, b: SupportPass, lineWidthMm: number, engine: PolygonEngine): boolean {
  if (a.region === b.region) return true
  for (const [one, other] of [
    [a.region, b.region],
    [b.region, a.region],
  ]) {
    const rest = engine.minus(one, other)
    if (!isEmptyRegion(rest) && !isEmptyRegion(engine.grow(rest, -lineWidthMm / 4, 'miter'))) return false
  }
  return true
}
