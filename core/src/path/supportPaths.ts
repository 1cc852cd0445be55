import { hatch, isEmptyRegion, splitPieces, type PolygonEngine, type Region } from '../polygon'
import type { SupportPass } from '../stand'
import { addRings, addSegments } from './addLines'
import { partLineAngleDeg } from './partPaths'
import { PathWriter, type PathKind, type ToolPaths } from './toolPaths'

export type SupportPathOptions = {
  readonly lineWidthMm: number
  /** Share of a stand that is plastic, 0 to 1. */
  readonly standDensity: number
  /** Free width between interface lines; 0 = solid. */
  readonly interfaceSpacingMm: number
  /** Whether interface lines cross the first lines of the part above or run along them. */
  readonly interfaceDirection: 'across' | 'along'
}

/** Lines of one support pass. Stand lines keep one direction and place from layer to layer, so that they grow into upright walls. */
export function supportPaths(pass: SupportPass, partLayerAbove: number, engine: PolygonEngine, options: SupportPathOptions): ToolPaths {
  const w = options.lineWidthMm
  const writer = new PathWriter()
  if (pass.role === 'footing') traceFooting(writer, pass.region, engine, w)
  else if (pass.role === 'stand') {
    // The layer on the bed is solid, so that it holds.
    const spacing = pass.bottomMm === 0 ? w : w / options.standDensity
    for (const piece of splitPieces(pass.region)) fillPiece(writer, 'stand', piece, 0, spacing, engine, w, spacing * 1.6)
  } else {
    const across = partLineAngleDeg(partLayerAbove) + (options.interfaceDirection === 'across' ? 90 : 0)
    for (const piece of splitPieces(pass.region)) fillPiece(writer, 'interface', piece, across, w + options.interfaceSpacingMm, engine, w, 0)
  }
  return writer.finish()
}

/** Hatches one piece; one that no hatch line meets gets its outline instead, so that nothing held is held by nothing. */
function fillPiece(writer: PathWriter, kind: PathKind, piece: Region, angleDeg: number, spacingMm: number, engine: PolygonEngine, lineWidthMm: number, joinMm: number): void {
  const lines = hatch(piece, angleDeg, spacingMm, lineWidthMm / 2)
  let total = 0
  for (let s = 0; s < lines.length; s += 4) total += Math.hypot(lines[s + 2] - lines[s], lines[s + 3] - lines[s + 1])
  if (total >= 2 * lineWidthMm) return addSegments(writer, kind, lines, joinMm)
  const inset = engine.grow(piece, -lineWidthMm / 2, 'miter', 0.01)
  addRings(writer, kind, isEmptyRegion(inset) ? piece : inset)
}

/** The footing as rings around the stand, from the outside in. */
function traceFooting(writer: PathWriter, region: Region, engine: PolygonEngine, lineWidthMm: number): void {
  let ring = engine.grow(region, -lineWidthMm / 2, 'miter', 0.01)
  for (let guard = 0; !isEmptyRegion(ring) && guard < 50; guard++) {
    addRings(writer, 'footing', ring)
    ring = engine.grow(ring, -lineWidthMm, 'miter', 0.01)
  }
}
