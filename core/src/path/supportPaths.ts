import { hatch, isEmptyRegion, type PolygonEngine } from '../polygon'
import type { SupportPass } from '../stand'
import { addSegments } from './addLines'
import { partLineAngleDeg } from './partPaths'
import { layRings } from './rings'
import { PathWriter, type ToolPaths } from './toolPaths'

/** How a stand's lines are laid: each by itself, tied at their ends, or crossing from layer to layer. */
export const STAND_LINES = ['separate', 'joined', 'crosswise'] as const
export type StandLines = (typeof STAND_LINES)[number]
/** Interface lines in one direction a layer, or in two. */
export const INTERFACE_LINES = ['straight', 'crossed'] as const
export type InterfaceLines = (typeof INTERFACE_LINES)[number]

export type SupportPathOptions = {
  readonly lineWidthMm: number
  readonly standLines: StandLines
  /** Rings around every layer of a stand. */
  readonly standWalls: number
  /** Share of a stand that is plastic, 0 to 1. */
  readonly standDensity: number
  /** The same where its top is to be denser. */
  readonly denseTopDensity: number
  /** Free width between interface lines; 0 = solid. */
  readonly interfaceSpacingMm: number
  readonly interfaceLines: InterfaceLines
  /** Whether interface lines cross the first lines of the part above or run along them. */
  readonly interfaceDirection: 'across' | 'along'
}

/** Ends of neighbouring lines farther apart than this many spacings are not tied. */
const TIED_SPACINGS = 1.6
/** Lines at 45 degrees above lines this far apart hang no more than 2 mm at their ends. */
const CARRYING_MM = 1.7
/** Direction of stand lines. */
const STAND_DEG = 0
const CROSS_DEG = 90

/**
 * Lines of one support pass, all of them inside its region. Stand lines keep one direction and place from layer to layer, so that they
 * grow into upright walls.
 * @param level number of the pass from the bed upwards, for lines that cross from layer to layer
 */
export function supportPaths(
  pass: SupportPass,
  level: number,
  engine: PolygonEngine,
  options: SupportPathOptions,
): ToolPaths {
  const writer = new PathWriter()
  switch (pass.fill) {
    case 'rings':
      layRings(writer, 'footing', pass.region, Infinity, engine, options.lineWidthMm)
      break
    case 'interface':
      layInterface(writer, pass, engine, options)
      break
    default:
      layStand(writer, pass, level, engine, options)
  }
  return writer.finish()
}

function layInterface(
  writer: PathWriter,
  { region, facesLayer }: SupportPass,
  engine: PolygonEngine,
  options: SupportPathOptions,
): void {
  const { lineWidthMm: w, interfaceSpacingMm: spacing, interfaceLines } = options
  // A ring ties the ends of the lines: none of them hangs, and the rim is filled to its edge.
  const { inside } = layRings(writer, 'interface', region, 1, engine, w)
  const along = partLineAngleDeg(facesLayer)
  const across = along + CROSS_DEG
  const first = options.interfaceDirection === 'across' ? across : along
  if (interfaceLines === 'crossed' && spacing > 0) {
    // Half of the lines each way: as much plastic as in one direction.
    for (const angle of [first, first + CROSS_DEG])
      addSegments(writer, 'interface', hatch(inside, angle, 2 * (w + spacing)))
  } else addSegments(writer, 'interface', hatch(inside, first, w + spacing))
}

function layStand(
  writer: PathWriter,
  { region, fill }: SupportPass,
  level: number,
  engine: PolygonEngine,
  options: SupportPathOptions,
): void {
  const { lineWidthMm: w, standLines } = options
  // Right below an interface lines are so near each other that no end of a line above hangs far.
  const spacing =
    fill === 'solid'
      ? w
      : fill === 'dense'
        ? Math.min(w / Math.max(options.standDensity, options.denseTopDensity), CARRYING_MM)
        : w / options.standDensity
  const walls = fill === 'solid' ? Math.max(1, options.standWalls) : options.standWalls
  const { inside } = layRings(writer, 'stand', region, walls, engine, w)
  if (isEmptyRegion(inside)) return
  // What is denser than the lines below it must lie across them, or it would begin on nothing.
  const crosses = fill === 'dense' || (standLines === 'crosswise' && level % 2 === 1)
  const lines = hatch(inside, crosses ? CROSS_DEG : STAND_DEG, spacing)
  addSegments(writer, 'stand', lines, standLines === 'joined' ? spacing * TIED_SPACINGS : 0)
}
