import { NARROWEST, type ToolPaths } from '../../path'
import { isEmptyRegion, regionAreaMm2, regionContains, regionPerimeterMm, splitPieces } from '../../polygon'
import { mm } from '../inWords'
import { error, warning, type PlanWarning, type Warned } from './warning'

/** A point that ends in fewer layers than these ends a hair lower: nobody minds. */
const LEAST_LAYERS = 5

/** Pieces of the part that no line is laid in. */
export function thinWarnings({ document, geometry }: Warned): PlanWarning[] {
  const { lineWidthMm } = document.decisions
  const narrowestMm = NARROWEST * lineWidthMm
  let [layers, filled] = [0, 0]
  let first: PlanWarning['atMm']
  geometry.layers.forEach(({ region, topMm }, i) => {
    if (isEmptyRegion(region)) return
    filled++
    const thin = splitPieces(region).filter(
      (piece) =>
        regionAreaMm2(piece) < (narrowestMm * regionPerimeterMm(piece)) / 2 &&
        !beginsWithin(geometry.partPaths[i], (x, y) => regionContains(piece, x, y)),
    )
    if (thin.length === 0) return
    layers++
    first ??= [thin[0].xyMm[0], thin[0].xyMm[1], topMm]
  })
  if (layers < Math.min(LEAST_LAYERS, filled) || !first) return []
  const lines = `what is narrower than ${mm(narrowestMm)} has no room for a line of ${mm(lineWidthMm)}`
  const mends = 'Make it thicker, or print it in narrower lines.'
  if (geometry.partPaths.every(({ kinds }) => kinds.length === 0))
    return [error('PART_TOO_THIN', `Nothing of the part is laid: ${lines}. ${mends}`, { atMm: first })]
  return [
    warning(
      'PART_TOO_THIN',
      `Pieces of the part are not laid, in ${layers} layers from ${mm(first[2])} height on: ${lines}. ${mends}`,
      { atMm: first },
    ),
  ]
}

/** Whether a line begins at such a place. */
const beginsWithin = ({ xyMm, starts, kinds }: ToolPaths, isWithin: (x: number, y: number) => boolean) =>
  kinds.some((_, p) => isWithin(xyMm[2 * starts[p]], xyMm[2 * starts[p] + 1]))
