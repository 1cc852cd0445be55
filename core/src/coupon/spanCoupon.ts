import type { SolidEngine } from '../mesh'
import type { CouponOf } from '../trial'
import { markSize, markSolid, markText } from './marks'
import { box, evenLayers, joined, MARK_LAYERS, markPiece, type CouponSize, type Piece } from './pieces'

/**
 * A bridge ladder: bridges of growing span side by side, each between two piers, its lines along the span,
 * its length on top of a pier.
 */
export function spanCoupon(engine: SolidEngine, coupon: CouponOf<'span'>, size: CouponSize): Piece[] {
  const { layerHeightMm: h, lineWidthMm: w } = size
  const pierLayers = Math.max(4, Math.round(5 / h))
  const deckLayers = Math.max(3, Math.round(1 / h))
  const pierMm = pierLayers * h
  const topMm = pierMm + deckLayers * h
  const pieces: Piece[] = []
  const marks = coupon.spansMm.map((span) => ({ span, text: markText(span), ...markSize(markText(span), w) }))
  const pierX = Math.max(8, ...marks.map((mark) => mark.widthMm + 2 * w))
  const pierY = Math.max(6, ...marks.map((mark) => mark.heightMm + 2 * w))
  marks.forEach(({ span, text, widthMm, heightMm }, i) => {
    const y = i * (pierY + 3)
    const piers = joined(engine, [
      box(engine, [0, y, 0], [pierX, pierY, pierMm]),
      box(engine, [pierX + span, y, 0], [pierX, pierY, pierMm]),
    ])
    const phase = (layer: number) => layer
    pieces.push({
      step: `span:${span}`,
      body: 'part',
      slot: 0,
      solid: piers,
      boundariesMm: evenLayers(0, pierLayers, h),
      phase,
      lay: { kind: 'part', walls: 2, fillDensity: 0.2 },
    })
    pieces.push({
      step: `span:${span}`,
      body: 'part',
      slot: 0,
      solid: box(engine, [0, y, pierMm], [2 * pierX + span, pierY, deckLayers * h]),
      boundariesMm: evenLayers(pierMm, deckLayers, h),
      phase: (layer) => pierLayers + layer,
      lay: { kind: 'lines', angleDeg: 0, density: 1, solidFirst: true },
    })
    pieces.push(
      markPiece(
        markSolid(
          engine,
          text,
          w,
          [(pierX - widthMm) / 2, y + (pierY - heightMm) / 2, topMm],
          MARK_LAYERS * h,
        ),
        0,
        topMm,
        size,
        (layer) => pierLayers + deckLayers + layer,
      ),
    )
  })
  return pieces
}
