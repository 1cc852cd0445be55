import type { Manifold } from 'manifold-3d'
import { thicknessOf, type Printer } from '../bench'
import { requireInRange, TenderError } from '../errors'
import { meshOfSolid, type Mesh, type SolidEngine } from '../mesh'
import { regionFromRings, type Region } from '../polygon'
import type { Layer } from '../slice'
import type { Coupon } from '../trial'
import { fanCoupon } from './fanCoupon'
import { gapCoupon } from './gapCoupon'
import { offsetCoupon } from './offsetCoupon'
import type { CouponSize, Lay, Piece, Slot } from './pieces'
import { purgeCoupon } from './purgeCoupon'
import { spanCoupon } from './spanCoupon'

/** One body of a coupon, as files carry it. */
export type CouponBody = { readonly name: string; readonly slot: Slot; readonly mesh: Mesh }

/** One piece with its layers cut, ready to be laid. */
export type CutPiece = {
  readonly step: string | null
  readonly body: Piece['body']
  readonly slot: Slot
  readonly lay: Lay
  readonly layers: readonly (Layer & { readonly phase: number })[]
}

export type BuiltCoupon = {
  readonly kind: Coupon['kind']
  readonly bodies: readonly CouponBody[]
  readonly pieces: readonly CutPiece[]
  /** Room on the bed, in the middle of which the coupon lies. */
  readonly sizeMm: readonly [number, number, number]
}

const BODY_NAMES: Readonly<Record<Piece['body'], string>> = {
  part: 'Part',
  stand: 'Stand',
  interface: 'Interface',
  second: 'Second filament',
}
const EDGE_MM = 8
/** More steps than a maker would read, and fewer than would keep the machine busy for long. */
const MOST_STEPS = 200

/**
 * Makes a coupon as solids, lying in the middle of a printer's bed.
 * @throws TenderError COUPON_TOO_LARGE when it does not fit the bed, VALUE_OUT_OF_RANGE when a step cannot be
 * made
 */
export function buildCoupon(
  engine: SolidEngine,
  coupon: Coupon,
  size: CouponSize,
  printer: Printer,
): BuiltCoupon {
  checkCoupon(coupon, size)
  const pieces = draw(engine, coupon, size, printer)
  try {
    const box = boundsOf(pieces.map((piece) => piece.solid))
    const sizeMm = [0, 1, 2].map((axis) => box.max[axis] - box.min[axis]) as [number, number, number]
    const room = [printer.bedMm[0] - 2 * EDGE_MM, printer.bedMm[1] - 2 * EDGE_MM, printer.heightMm]
    if (sizeMm.some((length, axis) => length > room[axis] + 1e-6)) {
      const [w, d, tall] = sizeMm.map((length) => length.toFixed(0))
      throw new TenderError(
        'COUPON_TOO_LARGE',
        `The coupon takes ${w} × ${d} × ${tall} mm; ${room[0]} × ${room[1]} × ${room[2]} mm are free on the bed of ${printer.name}. Fewer steps would fit.`,
        {
          sizeMm,
          room,
        },
      )
    }
    const shift: [number, number, number] = [
      printer.bedMm[0] / 2 - (box.min[0] + box.max[0]) / 2,
      printer.bedMm[1] / 2 - (box.min[1] + box.max[1]) / 2,
      0,
    ]
    const placed = pieces.map((piece) => ({ ...piece, solid: piece.solid.translate(shift) }))
    const cut = placed.map(cutPiece)
    const bodies = bodiesOf(engine, placed)
    for (const { solid } of placed) solid.delete()
    return { kind: coupon.kind, bodies, pieces: cut, sizeMm }
  } finally {
    for (const { solid } of pieces) solid.delete()
  }
}

function draw(engine: SolidEngine, coupon: Coupon, size: CouponSize, printer: Printer): Piece[] {
  switch (coupon.kind) {
    case 'fan':
      return fanCoupon(engine, coupon, size, printer.bedMm[0] - 2 * EDGE_MM)
    case 'span':
      return spanCoupon(engine, coupon, size)
    case 'gap':
      return gapCoupon(
        engine,
        coupon,
        size,
        thicknessOf(printer, size.nozzleMm),
        printer.bedMm[0] - 2 * EDGE_MM,
      )
    case 'purge':
      return purgeCoupon(engine, coupon, size)
    case 'offset':
      return offsetCoupon(engine, coupon, size, thicknessOf(printer, size.nozzleMm))
  }
}

function checkCoupon(coupon: Coupon, { layerHeightMm, lineWidthMm }: CouponSize): void {
  requireInRange('Layer height', layerHeightMm, 0.04, 1.2, 'mm')
  requireInRange('Line width', lineWidthMm, 0.1, 2.5, 'mm')
  const [rows, columns, low, high, unit]: [number, readonly number[], number, number, string] =
    coupon.kind === 'fan'
      ? [1, coupon.anglesDeg, 5, 89, '°']
      : coupon.kind === 'span'
        ? [1, coupon.spansMm, 1, 500, 'mm']
        : coupon.kind === 'gap'
          ? [coupon.spacingsMm.length, coupon.gapsMm, 0, 2, 'mm']
          : coupon.kind === 'purge'
            ? [coupon.swaps.length, coupon.volumesMm3, 1, 5000, 'mm³']
            : [coupon.axes.length, coupon.shiftsMm, -2, 2, 'mm']
  if (columns.length === 0 || rows === 0)
    throw new TenderError('VALUE_OUT_OF_RANGE', 'A coupon needs at least one step.')
  if (rows * columns.length > MOST_STEPS)
    throw new TenderError(
      'COUPON_TOO_LARGE',
      `The coupon has ${rows * columns.length} steps; up to ${MOST_STEPS} can be made.`,
    )
  for (const value of columns) requireInRange('A step', value, low, high, unit)
  if (new Set(columns).size < columns.length)
    throw new TenderError('VALUE_OUT_OF_RANGE', 'Two steps of the coupon are the same.')
  if (coupon.kind === 'gap') {
    requireInRange('Interface layers', coupon.interfaceLayers, 1, 12, '')
    for (const spacing of coupon.spacingsMm) requireInRange('A line spacing', spacing, 0, 20, 'mm')
  }
}

function boundsOf(solids: readonly Manifold[]) {
  const min = [Infinity, Infinity, Infinity]
  const max = [-Infinity, -Infinity, -Infinity]
  for (const solid of solids) {
    const box = solid.boundingBox()
    for (let axis = 0; axis < 3; axis++) {
      min[axis] = Math.min(min[axis], box.min[axis])
      max[axis] = Math.max(max[axis], box.max[axis])
    }
  }
  return { min, max }
}

/** Cuts a piece at the middle of each of its layers. */
function cutPiece({ step, body, slot, lay, solid, boundariesMm, phase }: Piece): CutPiece {
  const layers = boundariesMm.slice(1).map((topMm, index) => ({
    index,
    bottomMm: boundariesMm[index],
    topMm,
    region: regionAt(solid, (boundariesMm[index] + topMm) / 2),
    phase: typeof phase === 'number' ? phase : phase(index),
  }))
  return { step, body, slot, lay, layers }
}

function regionAt(solid: Manifold, zMm: number): Region {
  const section = solid.slice(zMm)
  const rings = section.toPolygons().map((ring) => Float64Array.from(ring.flatMap(([x, y]) => [x, y])))
  section.delete()
  return regionFromRings(rings)
}

/** Pieces of one kind and filament joined, so that a body is one closed solid. */
function bodiesOf(engine: SolidEngine, pieces: readonly Piece[]): CouponBody[] {
  const kinds = [...new Set(pieces.map((piece) => piece.body))]
  return kinds.map((body) => {
    const own = pieces.filter((piece) => piece.body === body)
    return {
      name: BODY_NAMES[body],
      slot: own[0].slot,
      mesh: meshOfSolid(engine.Manifold.union(own.map((piece) => piece.solid))),
    }
  })
}
