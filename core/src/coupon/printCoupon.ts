import type { Filament, Printer } from '../bench'
import { addSegments, partPaths, PathWriter, type PathKind, type ToolPaths } from '../path'
import { boundsOf, hatch, type PolygonEngine } from '../polygon'
import { evenFan, orderSweeps, type Print, type Role, type Sweep } from '../print'
import type { Checkpoint } from '../slice'
import type { BuiltCoupon, CutPiece } from './buildCoupon'
import type { Slot } from './pieces'

/** Printing as the trial records it. */
export type PrintAs = {
  readonly title: string
  readonly lineWidthMm: number
  readonly speedMmS: number
  readonly fanPercent: number
  /** Of the first and of the second slot; the same one twice is printed without swaps. */
  readonly filaments: readonly [Filament, Filament]
  /** Number that the printer knows each by. */
  readonly tools: readonly [number, number]
}

const FAN_SKIN_LAYERS = 3
const PRIME_MM = 40
const PRIME_LINES = 2

/**
 * Lays the lines of a coupon in the order they are printed.
 *
 * Pieces come phase by phase, within a phase by filament and height; filaments within phases are ordered for
 * the fewest swaps. A filament is primed on a short line of its own before its first use, but not where the
 * swap itself is what is tested.
 */
export async function printCoupon(
  coupon: BuiltCoupon,
  polygons: PolygonEngine,
  as: PrintAs,
  printer: Printer,
  checkpoint?: Checkpoint,
): Promise<Print> {
  const isOne = as.filaments[0].id === as.filaments[1].id
  const laid: { phase: number; order: number; sweep: Sweep }[] = []
  for (const [order, piece] of coupon.pieces.entries()) {
    await checkpoint?.(order, coupon.pieces.length)
    const paths = await pathsOf(piece, polygons, as.lineWidthMm)
    piece.layers.forEach(({ bottomMm, topMm, phase }, k) =>
      laid.push({
        phase,
        order,
        sweep: {
          role: ROLE_OF[piece.body],
          piece: piece.step,
          slot: isOne ? 0 : piece.slot,
          bottomMm,
          topMm,
          paths: paths[k],
        },
      }),
    )
  }
  // A purge ladder starts with the nozzle full of the first filament, though nothing is printed in it yet.
  if (coupon.kind === 'purge' && laid.some((one) => one.sweep.piece?.startsWith('AB')))
    laid.unshift({ phase: -1, order: -1, sweep: primeLine(0, 0, coupon, as.lineWidthMm, printer) })
  laid.sort((a, b) => a.phase - b.phase || a.sweep.topMm - b.sweep.topMm || a.order - b.order)
  const phases = [...new Set(laid.map((one) => one.phase))].map((phase) =>
    laid.filter((one) => one.phase === phase).map(({ sweep }) => sweep),
  )
  return {
    title: as.title,
    sweeps: withPrimes(orderSweeps(phases), coupon, as.lineWidthMm, printer),
    zeroMm: [0, 0],
    slots: as.filaments,
    tools: as.tools,
    lineWidthMm: as.lineWidthMm,
    speedMmS: as.speedMmS,
    fanPercent: evenFan(as.fanPercent),
    // Where leftovers are what is looked at, or a few dots of them do no harm, nothing is purged.
    purgeMm3: [],
    slowsDown: false,
  }
}

const ROLE_OF: Readonly<Record<CutPiece['body'], Role>> = {
  part: 'part',
  second: 'part',
  stand: 'stand',
  interface: 'interface',
}

async function pathsOf(
  { lay, layers, body }: CutPiece,
  polygons: PolygonEngine,
  w: number,
): Promise<ToolPaths[]> {
  if (lay.kind === 'part')
    return partPaths(layers, polygons, {
      lineWidthMm: w,
      walls: lay.walls,
      fillDensity: lay.fillDensity,
      skinLayers: lay.fillDensity > 0 && lay.fillDensity < 1 ? FAN_SKIN_LAYERS : 0,
    })
  const kind: PathKind = body === 'stand' ? 'stand' : body === 'interface' ? 'interface' : 'skin'
  return layers.map(({ region }, k) => {
    const writer = new PathWriter()
    if (lay.kind === 'ribbon') ribbon(writer, region, w)
    else {
      const solid = lay.density >= 1 || (lay.solidFirst && k === 0)
      const spacing = solid ? w : w / lay.density
      addSegments(
        writer,
        kind,
        hatch(region, lay.angleDeg, spacing, w / 2),
        kind === 'interface' ? undefined : { mm: 1.6 * spacing, within: region },
      )
    }
    return writer.finish()
  })

  /** Lines to and fro over a rectangle, each of its whole length and a line's width of its own. */
  function ribbon(writer: PathWriter, region: CutPiece['layers'][number]['region'], width: number): void {
    const { minX, minY, maxX, maxY } = boundsOf(region.xyMm)
    const lines = Math.round((maxX - minX) / width)
    for (let i = 0; i < lines; i++) {
      const x = minX + (i + 0.5) * width
      writer.add(
        'skin',
        Float64Array.from(i % 2 === 0 ? [x, minY, x, maxY] : [x, maxY, x, minY]),
        0,
        2,
        false,
      )
    }
  }
}

/**
 * Puts a priming line in front of the first use of each filament; of none where the swap is what is tested.
 */
function withPrimes(sweeps: readonly Sweep[], coupon: BuiltCoupon, w: number, printer: Printer): Sweep[] {
  if (coupon.kind === 'purge') return [...sweeps]
  const seen = new Set<number>()
  return sweeps.flatMap((sweep) => {
    if (seen.has(sweep.slot)) return [sweep]
    seen.add(sweep.slot)
    return [primeLine(sweep.slot as Slot, seen.size - 1, coupon, w, printer), sweep]
  })
}

/** A short line in front of the coupon; the second one lies in front of the first. */
function primeLine(
  slot: Slot,
  place: number,
  { sizeMm, pieces }: BuiltCoupon,
  w: number,
  printer: Printer,
): Sweep {
  const y = (printer.bedMm[1] - sizeMm[1]) / 2 - 2 - place * (PRIME_LINES * w + 1)
  const x = printer.bedMm[0] / 2
  const writer = new PathWriter()
  for (let i = 0; i < PRIME_LINES; i++)
    writer.add('skin', Float64Array.of(x - PRIME_MM / 2, y - i * w, x + PRIME_MM / 2, y - i * w), 0, 2, false)
  const [{ bottomMm, topMm }] = pieces[0].layers
  return { role: 'purge', piece: null, slot, bottomMm: 0, topMm: topMm - bottomMm, paths: writer.finish() }
}
