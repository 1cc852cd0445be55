import type { Manifold } from 'manifold-3d'
import { TenderError } from '../errors'
import type { SolidEngine } from '../mesh'
import type { Axis, CouponOf } from '../trial'
import { markSize, markSolid } from './marks'
import { box, evenLayers, MARK_LAYERS, markPiece, type CouponSize, type Piece } from './pieces'

const TOOTH_MM = 7
const APART_MM = 0.4
const PAD_MM = 6
/** Pads must not scrape at a nozzle that prints beside them. */
const PADS_APART_MM = 0.8
const PAD_LAYERS = 5

/**
 * An offset comb: along each axis a row of teeth by the first nozzle, and facing them teeth by the second,
 * each told to stand a little further along. The pair that lines up tells how far off the second nozzle is,
 * like a vernier. For the height, pads side by side: the pair that a fingernail passes without a step tells
 * it. The shift stands beside each pair in hundredths of a millimetre.
 * @throws TenderError VALUE_OUT_OF_RANGE when pads of a height cannot be laid by the nozzle
 */
export function offsetCoupon(
  engine: SolidEngine,
  coupon: CouponOf<'offset'>,
  size: CouponSize,
  thicknessMm: readonly [number, number],
): Piece[] {
  const { layerHeightMm: h, lineWidthMm: w } = size
  const labels = coupon.shiftsMm.map((shift) => ({
    shift,
    text: String(Math.round(shift * 100)),
    ...markSize(String(Math.round(shift * 100)), w),
  }))
  const largest = Math.max(...coupon.shiftsMm.map(Math.abs))
  const pitch = Math.max(2 * PAD_MM, 4 * w + 2 * largest + 1, ...labels.map((label) => label.widthMm + 1))
  const labelMm = markSize('0', w).heightMm
  const pieces: Piece[] = []
  let y = 0
  for (const axis of coupon.axes) {
    // A row is drawn along x from its own corner, then turned and put in its place.
    const place = placing(axis, y, labelMm)
    const head = markSolid(engine, axis.toUpperCase(), w, [-6 * w - 2, labelMm + 2, 0], MARK_LAYERS * h)
    pieces.push(markPiece(place(head), 0, 0, size, (layer) => layer))
    for (const [i, { shift, text, widthMm }] of labels.entries()) {
      const middle = (i + 0.5) * pitch
      pieces.push(
        markPiece(
          place(markSolid(engine, text, w, [middle - widthMm / 2, 0, 0], MARK_LAYERS * h)),
          0,
          0,
          size,
          (layer) => layer,
        ),
      )
      const step = `${axis}:${shift}`
      const teeth =
        axis === 'z' ? pads(step, middle, labelMm + 1, shift) : pair(step, middle, labelMm + 1, shift)
      for (const piece of teeth) pieces.push({ ...piece, solid: place(piece.solid) })
    }
    y += axis === 'y' ? 0 : labelMm + 2 * TOOTH_MM + 6
  }
  return pieces

  function pair(step: string, x: number, from: number, shift: number): Piece[] {
    const tooth = (at: number, bottom: number) => box(engine, [at - w, bottom, 0], [2 * w, TOOTH_MM, 2 * h])
    const shared = {
      step,
      boundariesMm: evenLayers(0, 2, h),
      lay: { kind: 'part', walls: 1, fillDensity: 0 },
    } as const
    return [
      { ...shared, body: 'part', slot: 0, solid: tooth(x, from), phase: (layer) => layer },
      {
        ...shared,
        body: 'second',
        slot: 1,
        solid: tooth(x + shift, from + TOOTH_MM + APART_MM),
        phase: (layer) => layer,
      },
    ]
  }

  function pads(step: string, x: number, from: number, shift: number): Piece[] {
    const ground = PAD_LAYERS * h
    const height = ground + shift
    const thickness = height / PAD_LAYERS
    if (thickness < thicknessMm[0] - 1e-9 || thickness > thicknessMm[1] + 1e-9)
      throw new TenderError(
        'VALUE_OUT_OF_RANGE',
        `A pad shifted by ${shift} mm would need layers of ${thickness.toFixed(3)} mm; the nozzle lays ${thicknessMm[0]} to ${thicknessMm[1]} mm. Use smaller shifts or leave Z out.`,
      )
    const lay = { kind: 'part', walls: 1, fillDensity: 1 } as const
    const phase = (layer: number) => layer
    return [
      {
        step,
        body: 'part',
        slot: 0,
        solid: box(engine, [x - PAD_MM / 2, from, 0], [PAD_MM, PAD_MM, ground]),
        boundariesMm: evenLayers(0, PAD_LAYERS, h),
        phase,
        lay,
      },
      {
        step,
        body: 'second',
        slot: 1,
        solid: box(engine, [x - PAD_MM / 2, from + PAD_MM + PADS_APART_MM, 0], [PAD_MM, PAD_MM, height]),
        boundariesMm: evenLayers(0, PAD_LAYERS, thickness),
        phase,
        lay,
      },
    ]
  }
}

/**
 * Rows along x stand behind one another; the row of the y axis is turned and stands to their left, its shift
 * growing to the back.
 */
function placing(axis: Axis, y: number, labelMm: number): (solid: Manifold) => Manifold {
  if (axis !== 'y') return (solid) => solid.translate([0, y, 0])
  return (solid) => solid.rotate([0, 0, 90]).translate([-labelMm - 10, 0, 0])
}
