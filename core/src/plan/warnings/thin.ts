import type { Decisions } from '../../decide'
import { NARROWEST, PATH_KINDS, type ToolPaths } from '../../path'
import {
  boundsOverlap,
  boxOf,
  isEmptyRegion,
  regionAreaMm2,
  regionContains,
  regionPerimeterMm,
  ringCount,
  splitPieces,
  type PolygonEngine,
  type Region,
} from '../../polygon'
import { PATH_TOLERANCE_MM } from '../../tolerances'
import { mm } from '../inWords'
import { error, warning, type PlanWarning, type Warned } from './warning'

/** What ends in fewer layers than these, one on the other, ends a hair lower: nobody minds. */
const LEAST_LAYERS = 5

/** The tip of a wedge has no room for a line either; this much is more than that. */
const SOME_MM2 = 0.5
const WALL = PATH_KINDS.indexOf('wall')

/** Pieces that no line is laid in, one on the other: the highest, how many they are, and where they begin. */
type Stack = {
  readonly piece: Region
  readonly layers: number
  readonly atMm: readonly [number, number, number]
}

/** What was told of lines of a part: most changes of a plan leave those as they are. */
const told = new WeakMap<readonly ToolPaths[], PlanWarning[]>()

/** What of the part no line is laid in, since it is too narrow. */
export function thinWarnings(warned: Warned): PlanWarning[] {
  const { partPaths } = warned.geometry
  let warnings = told.get(partPaths)
  if (!warnings) told.set(partPaths, (warnings = tooThin(warned)))
  return warnings
}

function tooThin({ document, engine, geometry }: Warned): PlanWarning[] {
  const { lineWidthMm } = document.decisions
  const narrowestMm = NARROWEST * lineWidthMm
  let tallest: Stack | null = null
  let below: readonly Stack[] = []
  for (const [i, { region, topMm }] of geometry.layers.entries()) {
    const under: readonly Stack[] = below
    below = tooNarrow(region, geometry.partPaths[i], engine, document.decisions).map((piece): Stack => {
      const box = boxOf(piece)
      const on = under.find((stack) => boundsOverlap(box, boxOf(stack.piece), 0))
      const begin: Stack['atMm'] = on?.atMm ?? [piece.xyMm[0], piece.xyMm[1], topMm]
      return { piece, layers: 1 + (on?.layers ?? 0), atMm: begin }
    })
    for (const stack of below) if (stack.layers > (tallest?.layers ?? 0)) tallest = stack
  }
  if (!tallest) return []
  const { layers, atMm } = tallest
  const lines = `what is narrower than ${mm(narrowestMm)} has no room for a line of ${mm(lineWidthMm)}`
  const mends = 'Make it thicker, or print it in narrower lines.'
  if (geometry.partPaths.every(({ kinds }) => kinds.length === 0))
    return [error('PART_TOO_THIN', `Nothing of the part is printed: ${lines}. ${mends}`, { atMm })]
  if (layers < LEAST_LAYERS) return []
  return [
    warning(
      'PART_TOO_THIN',
      `Some of the part is not printed, ${layers} layers of it from ${mm(atMm[2])} up: ${lines}. ${mends}`,
      { atMm },
    ),
  ]
}

/** What of a layer has no room for a line: whole pieces of it, and what hangs together with wider ones. */
function tooNarrow(
  region: Region,
  paths: ToolPaths,
  engine: PolygonEngine,
  { walls, lineWidthMm }: Pick<Decisions, 'walls' | 'lineWidthMm'>,
): Region[] {
  if (isEmptyRegion(region)) return []
  const narrowestMm = NARROWEST * lineWidthMm
  const pieces = splitPieces(region).filter(
    (piece) => regionAreaMm2(piece) < (narrowestMm * regionPerimeterMm(piece)) / 2 && !isLaid(piece, paths),
  )
  // Walls that follow all of an outline are as long as it, but for corners: most layers need no closer look.
  const cornersMm = 8 * walls * lineWidthMm * (1 + ringCount(region))
  if (wallsMm(paths) >= walls * (regionPerimeterMm(region) - cornersMm)) return pieces
  const middle = engine.grow(region, -narrowestMm / 2, 'miter', PATH_TOLERANCE_MM)
  const narrow = engine.minus(region, engine.grow(middle, narrowestMm / 2, 'miter', PATH_TOLERANCE_MM))
  const besides = splitPieces(narrow).filter((piece) => regionAreaMm2(piece) > SOME_MM2)
  return [...pieces, ...besides]
}

/** Whether a line begins in a piece of a layer. */
const isLaid = (piece: Region, { xyMm, starts, kinds }: ToolPaths): boolean =>
  kinds.some((_, p) => regionContains(piece, xyMm[2 * starts[p]], xyMm[2 * starts[p] + 1]))

function wallsMm({ xyMm, starts, kinds }: ToolPaths): number {
  let mm = 0
  for (let p = 0; p < kinds.length; p++)
    if (kinds[p] === WALL)
      for (let i = starts[p]; i + 1 < starts[p + 1]; i++)
        mm += Math.hypot(xyMm[2 * i + 2] - xyMm[2 * i], xyMm[2 * i + 3] - xyMm[2 * i + 1])
  return mm
}
