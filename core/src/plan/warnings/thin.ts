import { NARROWEST, type ToolPaths } from '../../path'
import {
  boundsOverlap,
  boxOf,
  isEmptyRegion,
  regionAreaMm2,
  regionContains,
  regionPerimeterMm,
  splitPieces,
  type Region,
} from '../../polygon'
import { mm } from '../inWords'
import { error, warning, type PlanWarning, type Warned } from './warning'

/** What ends in fewer layers than these, one on the other, ends a hair lower: nobody minds. */
const LEAST_LAYERS = 5

/** Pieces that no line is laid in, one on the other: the highest, how many they are, and where they begin. */
type Stack = {
  readonly piece: Region
  readonly layers: number
  readonly atMm: readonly [number, number, number]
}

/** What of the part no line is laid in, since it is too narrow. */
export function thinWarnings({ document, geometry }: Warned): PlanWarning[] {
  const { lineWidthMm } = document.decisions
  const narrowestMm = NARROWEST * lineWidthMm
  let tallest: Stack | null = null
  let below: readonly Stack[] = []
  for (const [i, { region, topMm }] of geometry.layers.entries()) {
    const under: readonly Stack[] = below
    below = thinPieces(region, geometry.partPaths[i], narrowestMm).map((piece): Stack => {
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
    return [error('PART_TOO_THIN', `Nothing of the part is laid: ${lines}. ${mends}`, { atMm })]
  if (layers < LEAST_LAYERS) return []
  return [
    warning(
      'PART_TOO_THIN',
      `Some of the part is not laid, ${layers} layers from ${mm(atMm[2])} height on: ${lines}. ${mends}`,
      { atMm },
    ),
  ]
}

/** The pieces of a layer that no line begins in. */
function thinPieces(region: Region, { xyMm, starts, kinds }: ToolPaths, narrowestMm: number): Region[] {
  if (isEmptyRegion(region)) return []
  return splitPieces(region).filter(
    (piece) =>
      regionAreaMm2(piece) < (narrowestMm * regionPerimeterMm(piece)) / 2 &&
      !kinds.some((_, p) => regionContains(piece, xyMm[2 * starts[p]], xyMm[2 * starts[p] + 1])),
  )
}
