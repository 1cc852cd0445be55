import { isEmptyRegion, type PolygonEngine, type Region } from '../polygon'
import { SAME_HEIGHT_MM } from '../tolerances'
import { isHair } from './hair'
import type { SupportPass } from './supports'

/** What would lose less than twice this below it rests on what is beside that. */
const HAIR_MM = 0.005

/** When two stand layers are laid as one. */
export type ThickRules = {
  readonly thickestMm: number
  readonly lineWidthMm: number
  /** How far the next layer may reach out over what is lost. */
  readonly reachMm: number
  /** Where a stand layer may not grow to what the one above it fills. */
  barred(lower: SupportPass): readonly Region[]
}

/**
 * Joins neighbouring stand layers to one twice as thick, where the nozzle can lay it and the two differ by
 * less than a line: nobody looks at a stand, and half the layers take half the time. The lower one grows to
 * the upper one where it may; what only one of them fills else is lost. Where something else rests on that,
 * the two stay as they are.
 * @param passes of one holding, from the bed upwards
 */
export function thickLayers(
  passes: readonly SupportPass[],
  { thickestMm, lineWidthMm, reachMm, barred }: ThickRules,
  engine: PolygonEngine,
): SupportPass[] {
  const out: SupportPass[] = []
  const besides = passes.filter((pass) => !isPlain(pass))
  const besidesFrom = (bottomMm: number): Region[] =>
    besides.flatMap((pass) => (Math.abs(pass.bottomMm - bottomMm) < SAME_HEIGHT_MM ? [pass.region] : []))
  /** Whether something besides that begins at a height shares more than a hair with a region. */
  const bears = (region: Region, heightMm: number): boolean =>
    besidesFrom(heightMm).some((other) => !isHair(engine.common(other, region), HAIR_MM, engine))
  /** What two layers are laid as together; null where each is laid for itself. */
  const joined = (lower: SupportPass, upper: SupportPass): Region | null => {
    if (lower.region === upper.region) return upper.region
    const below = engine.minus(lower.region, upper.region)
    const above = engine.minus(upper.region, lower.region)
    if (![below, above].every((region) => isHair(region, lineWidthMm / 4, engine))) return null
    if (bears(below, upper.bottomMm)) return null
    if (isHair(above, HAIR_MM, engine)) return upper.region
    const lost = engine.commonAll([above], [...barred(lower), ...besidesFrom(lower.bottomMm)])
    if (isEmptyRegion(lost)) return upper.region
    // The next two may lose as much.
    if (!isHair(lost, reachMm / 4, engine) || bears(lost, upper.topMm)) return null
    return engine.minus(upper.region, lost)
  }
  /** The last stand layer that stays single, waiting for the one above it. */
  let open: { at: number; pass: SupportPass } | null = null
  for (const pass of passes) {
    if (isPlain(pass)) {
      const below = open?.pass
      const region =
        below &&
        Math.abs(below.topMm - pass.bottomMm) < SAME_HEIGHT_MM &&
        pass.topMm - below.bottomMm <= thickestMm + SAME_HEIGHT_MM
          ? joined(below, pass)
          : null
      if (region) {
        out[open!.at] = { ...pass, region, bottomMm: below!.bottomMm }
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
