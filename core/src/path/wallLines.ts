import { EMPTY_REGION, isEmptyRegion, type PolygonEngine, type Region } from '../polygon'
import { PATH_TOLERANCE_MM } from '../tolerances'
import { addRings } from './addLines'
import { addMiddles } from './addMiddles'
import { hasNarrowParts } from './rings'
import { joinPaths, NO_PATHS, PathWriter, type ToolPaths } from './toolPaths'

/**
 * What is narrower than this many lines is not laid: a nozzle lays lines down to 0.8 of its bore, and usual
 * ones are a little wider than that.
 */
export const NARROWEST = 0.7

export type Walls = {
  /** From the outermost inwards. */
  readonly rings: readonly ToolPaths[]
  /** What may be filled, up to the last wall's own edge. */
  readonly inside: Region
}

/** What of a region has room for a whole line, and narrower lines in the rest of it. */
type Narrow = { readonly wide: Region; readonly lines: ToolPaths }

/**
 * Walls along an outline of the part, as much plastic as there is room for: where two sides are nearer to
 * each other than two lines, one line runs between them, as wide as that; where there is less room than for a
 * line, a narrower one, down to 0.7 of it. What is left between two lines and has no room for that either,
 * they share.
 * @param count how many; at least one is laid
 */
export function wallLines(region: Region, count: number, engine: PolygonEngine, lineWidthMm: number): Walls {
  const w = lineWidthMm
  const grown = (from: Region, mm: number) => engine.grow(from, mm, 'miter', PATH_TOLERANCE_MM)
  const rings: ToolPaths[] = []
  let rim = grown(region, -w / 2)
  let narrow = narrowIn(region, rim)
  for (let more = Math.max(1, count) - 1; ; more--) {
    const next: Region | null = more > 0 ? grown(rim, -w) : null
    // In most layers nothing is narrow, which neighbouring walls tell.
    const inside: Region | null = next && !hasNarrowParts(rim, next, w) ? null : grown(rim, -w / 2)
    const within: Narrow | null = inside && narrowIn(inside, next ?? grown(inside, -w / 2))
    const lines = [aroundIn(rim, inside, within !== null), narrow?.lines ?? NO_PATHS]
    if (!next || isEmptyRegion(rim)) {
      rings.push(joinPaths([...lines, within?.lines ?? NO_PATHS]))
      return { rings, inside: within?.wide ?? inside ?? EMPTY_REGION }
    }
    rings.push(joinPaths(lines))
    narrow = within
    rim = next
  }

  /** @param shares whether something within has no room for a line of its own */
  function aroundIn(middle: Region, inside: Region | null, shares: boolean): ToolPaths {
    const writer = new PathWriter(rings.at(-1))
    if (shares || (inside && hasNarrowParts(middle, inside, w / 2)))
      addMiddles(writer, 'wall', middle, w, NARROWEST)
    else addRings(writer, 'wall', middle)
    return writer.finish()
  }

  /** @param middle of it all, half a line within */
  function narrowIn(all: Region, middle: Region): Narrow | null {
    if (!hasNarrowParts(all, middle, w / 2)) return null
    const wide = grown(middle, w / 2)
    const writer = new PathWriter()
    addMiddles(writer, 'wall', grown(engine.minus(all, wide), (-NARROWEST / 2) * w), NARROWEST * w)
    const lines = writer.finish()
    return { wide, lines: { ...lines, flow: lines.flow.map((share) => share * NARROWEST) } }
  }
}
