import { isEmptyRegion, regionPerimeterMm, ringCount, type PolygonEngine, type Region } from '../polygon'
import { addRings } from './addLines'
import { addMiddles } from './addMiddles'
import { PathWriter, type PathKind, type ToolPaths } from './toolPaths'

/** Corners of rings may stray this far from round. */
const ARC_MM = 0.01

export type Ringed = {
  readonly lines: ToolPaths
  /** What lines inside the rings may fill, up to the rings’ own edge. */
  readonly inside: Region
}

/** Rings laid before, by how they were laid: what fills them may change without them. */
const known = new WeakMap<Region, Map<string, Ringed>>()

/**
 * Lays rings along the rim of a region, the outermost first, each wholly inside it. Where the region is
 * narrower than two lines, one line goes down its middle, as wide as what it has to fill: two would lie on
 * each other. What is narrower than one line gets none.
 * @param rings how many; 0 lays none and leaves everything to what fills the inside
 */
export function layRings(
  kind: PathKind,
  region: Region,
  rings: number,
  engine: PolygonEngine,
  lineWidthMm: number,
): Ringed {
  const how = `${kind} ${rings} ${lineWidthMm}`
  let before = known.get(region)
  if (!before) known.set(region, (before = new Map()))
  const laid = before.get(how)
  if (laid) return laid
  const writer = new PathWriter()
  let rim = engine.grow(region, -lineWidthMm / 2, 'miter', ARC_MM)
  for (let k = 0; k < rings && !isEmptyRegion(rim); k++) {
    const within = engine.grow(rim, -lineWidthMm / 2, 'miter', ARC_MM)
    if (hasNarrowParts(rim, within, lineWidthMm / 2)) addMiddles(writer, kind, rim, lineWidthMm)
    else addRings(writer, kind, rim)
    // The edge of the last ring; another one would begin half a line further in.
    rim = k === rings - 1 ? within : engine.grow(within, -lineWidthMm / 2, 'miter', ARC_MM)
  }
  const ringed = { lines: writer.finish(), inside: rim }
  before.set(how, ringed)
  return ringed
}

/**
 * Whether opposite sides of a rim come so near each other that what lies so far within it is gone there: it
 * takes its outline with it, more than corners do, be they those of a square.
 */
export function hasNarrowParts(rim: Region, within: Region, withinMm: number): boolean {
  if (isEmptyRegion(rim)) return false
  if (isEmptyRegion(within) || ringCount(within) !== ringCount(rim)) return true
  return regionPerimeterMm(within) < regionPerimeterMm(rim) - 8 * withinMm * (1 + ringCount(rim))
}
