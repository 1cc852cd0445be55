import { thicknessOf } from '../../bench'
import { farthestApartMm } from '../../decide'
import { planBounds } from '../views'
import { mm } from '../inWords'
import { error, warning, type PlanWarning, type Warned } from './warning'

/** Lines from about as wide as the nozzle's bore up to twice that are laid well. */
const WIDTHS: readonly [number, number] = [0.8, 2]
const FIRST_LAYER_SHARE = 0.8

/** What the printer cannot do: room on the bed, thickness of layers, width of lines, filaments at once. */
export function machineWarnings({
  document,
  facts,
  contacts,
  geometry,
  totals,
  purges,
}: Warned): PlanWarning[] {
  const { decisions: d, printer } = document
  const found: PlanWarning[] = []
  const { minX, minY, maxX, maxY } = planBounds(geometry)
  const [width, depth] = [maxX - minX, maxY - minY]
  const partFits = facts.sizeMm[0] <= printer.bedMm[0] && facts.sizeMm[1] <= printer.bedMm[1]
  const bed = `the bed of ${printer.name} is ${mm(printer.bedMm[0])} by ${mm(printer.bedMm[1])}`
  if (!partFits)
    found.push(error('OUTSIDE_BED', `The part is ${mm(facts.sizeMm[0])} by ${mm(facts.sizeMm[1])}; ${bed}.`))
  else if (width > printer.bedMm[0] + 1e-6 || depth > printer.bedMm[1] + 1e-6)
    found.push(
      error(
        'OUTSIDE_BED',
        `${purges.tower ? 'Part, stands, footing and tower' : 'Part, stands and footing'} take ${mm(width)} by ${mm(depth)}; ${bed}.`,
      ),
    )
  const heightMm = Math.max(facts.sizeMm[2], geometry.layers.at(-1)?.topMm ?? 0)
  if (facts.sizeMm[2] > printer.heightMm)
    found.push(
      error('TOO_TALL', `The part is ${mm(heightMm)} tall; ${printer.name} reaches ${mm(printer.heightMm)}.`),
    )
  const [thinnest, thickest] = thicknessOf(printer)
  const lays = `A ${printer.nozzleMm} mm nozzle lays layers of ${mm(thinnest)} to ${mm(thickest)}`
  if (d.layerHeightMm < thinnest - 1e-9 || d.layerHeightMm > thickest + 1e-9)
    found.push(warning('LAYER_OUT_OF_RANGE', `${lays}; the plan asks for ${mm(d.layerHeightMm)}.`))
  else if (
    d.firstLayerHeightMm < thinnest - 1e-9 ||
    d.firstLayerHeightMm > Math.max(thickest, FIRST_LAYER_SHARE * printer.nozzleMm) + 1e-9
  )
    found.push(
      warning(
        'LAYER_OUT_OF_RANGE',
        `${lays}; the plan asks for a first layer of ${mm(d.firstLayerHeightMm)}.`,
      ),
    )
  const [narrow, wide] = WIDTHS.map((share) => share * printer.nozzleMm)
  if (d.lineWidthMm < narrow - 1e-9 || d.lineWidthMm > wide + 1e-9)
    found.push(
      warning(
        'LINE_OUT_OF_RANGE',
        `A ${printer.nozzleMm} mm nozzle lays lines of ${mm(narrow)} to ${mm(wide)}; the plan asks for ${mm(d.lineWidthMm)}.`,
      ),
    )
  const isHeld = contacts.some(({ areaMm2 }) => areaMm2 > 0)
  const printed = totals.filaments.length
  if (printed > printer.loads)
    found.push(
      error(
        'TOO_MANY_FILAMENTS',
        `The plan prints in ${printed} filaments; ${printer.name} holds ${printer.loads} at once.`,
      ),
    )
  const mostMm = farthestApartMm(d)
  if (isHeld && d.standDensity < d.lineWidthMm / mostMm - 1e-9)
    found.push(
      warning(
        'STANDS_DENSER',
        `Stand lines ${mm(d.lineWidthMm / d.standDensity)} apart would let the lines above them sag; they are laid ${mm(mostMm)} apart, so that none spans more than the ${mm(d.supportSpanMm)} that lines of supports are trusted with.`,
      ),
    )
  return found
}
