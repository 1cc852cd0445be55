import type { PolygonEngine } from '../polygon'
import { SAME_HEIGHT_MM } from '../tolerances'
import { isHair } from './hair'
import type { SupportPass } from './supports'

/** What would lose less than twice this below it rests on what is beside that. */
const HAIR_MM = 0.005

/**
 * Joins neighbouring stand layers to one twice as thick, where the nozzle can lay it and the two differ by
 * less than a line: nobody looks at a stand, and half the layers take half the time. What the lower one alone
 * fills is lost; where something else rests on that, the two stay as they are.
 * @param passes of one holding, from the bed upwards
 */
export function thickLayers(
  passes: readonly SupportPass[],
  thickestMm: number,
  lineWidthMm: number,
  engine: PolygonEngine,
): SupportPass[] {
  const out: SupportPass[] = []
  const besides = passes.filter((pass) => !isPlain(pass))
  /** Whether something besides the upper one rests on what of the lower one would be lost. */
  const bears = (lower: SupportPass, { bottomMm, region }: SupportPass): boolean =>
    besides.some(
      (pass) =>
        Math.abs(pass.bottomMm - bottomMm) < SAME_HEIGHT_MM &&
        !isHair(engine.common(pass.region, engine.minus(lower.region, region)), HAIR_MM, engine),
    )
  /** The last stand layer that stays single, waiting for the one above it. */
  let open: { at: number; pass: SupportPass } | null = null
  for (const pass of passes) {
    if (isPlain(pass)) {
      const below = open?.pass
      if (
        below &&
        Math.abs(below.topMm - pass.bottomMm) < SAME_HEIGHT_MM &&
        pass.topMm - below.bottomMm <= thickestMm + SAME_HEIGHT_MM &&
        differsByLess(below, pass, lineWidthMm, engine) &&
        !bears(below, pass)
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

const isPlain = ({ role, fill }: SupportPass): boolean => role === 'stand' && fill === 'stand'

/** Whether nothing of either could hold a line beside what they share. */
function differsByLess(a: SupportPass, b: SupportPass, lineWidthMm: number, engine: PolygonEngine): boolean {
  if (a.region === b.region) return true
  for (const [one, other] of [
    [a.region, b.region],
    [b.region, a.region],
  ]) {
    if (!isHair(engine.minus(one, other), lineWidthMm / 4, engine)) return false
  }
  return true
}
