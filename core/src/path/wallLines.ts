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
  /** What the walls so far leave, where some of that may be narrow. */
  let left: Region | null = region
  let rim = grown(region, -w / 2)
  for (let more = Math.max(1, count) - 1; ; more--) {
    const next: Region | null = more > 0 ? grown(rim, -w) : null
    // In most layers nothing is narrow, which neighbouring walls tell.
    const inside: Region | null = next && !hasNarrowParts(rim, next, w) ? null : grown(rim, -w / 2)
    const strips = left && hasNarrowParts(left, rim, w / 2) ? inStrips(left, rim) : NO_PATHS
    const middle: Region | null = inside && (next ?? grown(inside, -w / 2))
    const isNarrow = inside !== null && hasNarrowParts(inside, middle!, w / 2)
    const around = [aroundIn(rim, inside, isNarrow), strips]
    if (!next || isEmptyRegion(rim)) {
      // Fill begins where there is room for a whole line.
      if (isNarrow) around.push(inStrips(inside, middle!))
      rings.push(joinPaths(around))
      return { rings, inside: (isNarrow ? grown(middle!, w / 2) : inside) ?? EMPTY_REGION }
    }
    rings.push(joinPaths(around))
    left = inside
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

  /** Lines in what is narrower than a line. */
  function inStrips(all: Region, middle: Region): ToolPaths {
    const narrow = engine.minus(all, grown(middle, w / 2))
    const writer = new PathWriter()
    addMiddles(writer, 'wall', grown(narrow, (-NARROWEST / 2) * w), NARROWEST * w)
    const lines = writer.finish()
    return { ...lines, flow: lines.flow.map((share) => share * NARROWEST) }
  }
}
