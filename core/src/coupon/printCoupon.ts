import type { Printer } from '../bench'
import { addSegments, measurePaths, NO_PATHS, orderSwaps, partPaths, PATH_KINDS, PathWriter, type Motion, type PathKind, type ToolPaths } from '../path'
import { boundsOf, hatch, type PolygonEngine } from '../polygon'
import type { Checkpoint } from '../slice'
import type { BuiltCoupon, CutPiece } from './buildCoupon'
import type { Slot } from './pieces'

/** Lines printed in one go at one height. */
export type Sweep = { readonly step: string | null; readonly slot: Slot; readonly bottomMm: number; readonly topMm: number; readonly paths: ToolPaths }

export type CouponPrint = {
  readonly sweeps: readonly Sweep[]
  readonly lineWidthMm: number
  readonly speedMmS: number
  /** Plastic for each slot, mm3. */
  readonly mm3: readonly [number, number]
  readonly timeS: number
  readonly swaps: number
}

/** Printing as the trial records it. */
export type PrintAs = {
  readonly lineWidthMm: number
  readonly speedMmS: number
  /** Both slots hold the same filament, so nothing is swapped. */
  readonly oneFilament: boolean
}

const FAN_SKIN_LAYERS = 3
const PRIME_MM = 40
const PRIME_LINES = 2

/**
 * Lays the lines of a coupon in the order they are printed, and counts plastic and time.
 *
 * Pieces come phase by phase, within a phase by filament and height; filaments within phases are ordered for the fewest swaps.
 * A filament is primed on a short line of its own before its first use, but not where the swap itself is what is tested.
 */
export async function printCoupon(coupon: BuiltCoupon, polygons: PolygonEngine, as: PrintAs, printer: Printer, checkpoint?: Checkpoint): Promise<CouponPrint> {
  const laid: { phase: number; order: number; sweep: Sweep }[] = []
  for (const [order, piece] of coupon.pieces.entries()) {
    await checkpoint?.(order, coupon.pieces.length)
    const paths = await pathsOf(piece, polygons, as.lineWidthMm)
    piece.layers.forEach(({ bottomMm, topMm, phase }, k) => laid.push({ phase, order, sweep: { step: piece.step, slot: as.oneFilament ? 0 : piece.slot, bottomMm, topMm, paths: paths[k] } }))
  }
  // A purge ladder starts with the nozzle full of the first filament, though nothing is printed in it yet.
  if (coupon.kind === 'purge' && laid.some((one) => one.sweep.step?.startsWith('AB'))) laid.unshift({ phase: -1, order: -1, sweep: primeLine(0, 0, coupon, as.lineWidthMm, printer) })
  const phases = [...new Set(laid.map((one) => one.phase))].sort((a, b) => a - b).map((phase) => laid.filter((one) => one.phase === phase))
  const { order, swaps } = orderSwaps(phases.map((phase) => [...new Set(phase.map((one) => one.sweep.slot))]))
  const sweeps = phases.flatMap((phase, p) =>
    order[p].flatMap((slot) =>
      phase
        .filter((one) => one.sweep.slot === slot)
        .sort((a, b) => a.sweep.topMm - b.sweep.topMm || a.order - b.order)
        .map((one) => one.sweep),
    ),
  )
  const primed = withPrimes(sweeps, coupon, as.lineWidthMm, printer)
  return { sweeps: primed, lineWidthMm: as.lineWidthMm, speedMmS: as.speedMmS, swaps, ...count(primed, as, printer, swaps) }
}

async function pathsOf({ lay, layers, body }: CutPiece, polygons: PolygonEngine, w: number): Promise<ToolPaths[]> {
  if (lay.kind === 'part')
    return partPaths(layers, polygons, { lineWidthMm: w, walls: lay.walls, fillDensity: lay.fillDensity, skinLayers: lay.fillDensity > 0 && lay.fillDensity < 1 ? FAN_SKIN_LAYERS : 0 })
  const kind: PathKind = body === 'stand' ? 'stand' : body === 'interface' ? 'interface' : 'skin'
  return layers.map(({ region }, k) => {
    const writer = new PathWriter()
    if (lay.kind === 'ribbon') ribbon(writer, region, w)
    else {
      const solid = lay.density >= 1 || (lay.solidFirst && k === 0)
      const spacing = solid ? w : w / lay.density
      addSegments(writer, kind, hatch(region, lay.angleDeg, spacing, w / 2), kind === 'interface' ? 0 : 1.6 * spacing)
    }
    return writer.finish()
  })

  /** Lines to and fro over a rectangle, each of its whole length and a line's width of its own. */
  function ribbon(writer: PathWriter, region: CutPiece['layers'][number]['region'], width: number): void {
    const { minX, minY, maxX, maxY } = boundsOf(region.xyMm)
    const lines = Math.round((maxX - minX) / width)
    for (let i = 0; i < lines; i++) {
      const x = minX + (i + 0.5) * width
      writer.add('skin', Float64Array.from(i % 2 === 0 ? [x, minY, x, maxY] : [x, maxY, x, minY]), 0, 2, false)
    }
  }
}

/** Puts a priming line in front of the first use of each filament; of none where the swap is what is tested. */
function withPrimes(sweeps: readonly Sweep[], coupon: BuiltCoupon, w: number, printer: Printer): Sweep[] {
  if (coupon.kind === 'purge') return [...sweeps]
  const seen = new Set<Slot>()
  return sweeps.flatMap((sweep) => {
    if (seen.has(sweep.slot)) return [sweep]
    seen.add(sweep.slot)
    return [primeLine(sweep.slot, seen.size - 1, coupon, w, printer), sweep]
  })
}

/** A short line in front of the coupon; the second one lies in front of the first. */
function primeLine(slot: Slot, place: number, { sizeMm, pieces }: BuiltCoupon, w: number, printer: Printer): Sweep {
  const y = (printer.bedMm[1] - sizeMm[1]) / 2 - 2 - place * (PRIME_LINES * w + 1)
  const x = printer.bedMm[0] / 2
  const writer = new PathWriter()
  for (let i = 0; i < PRIME_LINES; i++) writer.add('skin', Float64Array.of(x - PRIME_MM / 2, y - i * w, x + PRIME_MM / 2, y - i * w), 0, 2, false)
  const [{ bottomMm, topMm }] = pieces[0].layers
  return { step: null, slot, bottomMm: 0, topMm: topMm - bottomMm, paths: writer.finish() }
}

function count(sweeps: readonly Sweep[], { lineWidthMm, speedMmS }: PrintAs, printer: Printer, swaps: number) {
  const mm3: [number, number] = [0, 0]
  let timeS = swaps * printer.swapS
  const motion = (speed: number): Motion => ({
    speedsMmS: PATH_KINDS.map(() => speed),
    travelMmS: printer.travelMmS,
    accelMmS2: printer.accelMmS2,
    cornerMmS: printer.cornerMmS,
    retractS: printer.retractS,
  })
  const [usual, first] = [motion(speedMmS), motion(Math.min(speedMmS, printer.firstLayerMmS))]
  for (const { slot, bottomMm, topMm, paths } of sweeps) {
    if (paths === NO_PATHS) continue
    const { lengthMm, timeS: seconds } = measurePaths(paths, bottomMm === 0 ? first : usual)
    mm3[slot] += lengthMm.reduce((a, b) => a + b, 0) * lineWidthMm * (topMm - bottomMm)
    timeS += seconds + printer.retractS
  }
  return { mm3, timeS }
}
