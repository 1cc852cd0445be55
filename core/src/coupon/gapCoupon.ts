import { TenderError } from '../errors'
import type { SolidEngine } from '../mesh'
import { partLineAngleDeg } from '../path'
import { planStack } from '../stack'
import type { CouponOf } from '../trial'
import { markSize, markSolid, markText } from './marks'
import { box, evenLayers, MARK_LAYERS, markPiece, type CouponSize, type Piece } from './pieces'

const BETWEEN_MM = 4
const STAND_DENSITY = 0.2

/** Side of a tile whose footprint is asked for; 14 mm otherwise. */
const tileSideMm = (tileAreaMm2: number | null): number =>
  tileAreaMm2 === null ? 14 : Math.sqrt(tileAreaMm2)

/**
 * A gap ladder: tiles all at one height, each over its own stand and interface, which end one gap below it.
 * The gap stands on each tile, and under it the spacing of the interface lines where several were asked for.
 *
 * Stands are printed first, then every interface, then the tiles: two swaps in all. Tops differ by no more
 * than the gaps do.
 * @param widthMm tiles stand in rows no wider than this
 * @throws TenderError VALUE_OUT_OF_RANGE when a tile has no room for its mark or the nozzle cannot lay a
 * stack
 */
export function gapCoupon(
  engine: SolidEngine,
  coupon: CouponOf<'gap'>,
  size: CouponSize,
  thicknessMm: readonly [number, number],
  widthMm: number,
): Piece[] {
  const { layerHeightMm: h, lineWidthMm: w } = size
  const side = tileSideMm(size.tileAreaMm2)
  const layers = Math.max(1, coupon.interfaceLayers)
  const largest = Math.max(...coupon.gapsMm)
  const undersideLayers = Math.ceil((largest + layers * h) / h) + 5
  const underside = undersideLayers * h
  const tileLayers = Math.max(5, Math.round(2 / h))
  const top = underside + tileLayers * h
  const pieces: Piece[] = []
  const perRow = Math.max(1, Math.floor((widthMm + BETWEEN_MM) / (side + BETWEEN_MM)))
  const rowsOf = Math.ceil(coupon.gapsMm.length / perRow)
  coupon.spacingsMm.forEach((spacing, row) =>
    coupon.gapsMm.forEach((gap, column) => {
      const step = `${spacing}:${gap}`
      const x = (column % perRow) * (side + BETWEEN_MM)
      const y = -(row * rowsOf + Math.floor(column / perRow)) * (side + BETWEEN_MM)
      const stack = planStack({
        undersideMm: underside,
        gapMm: gap,
        interfaceLayers: layers,
        layerHeightMm: h,
        firstLayerHeightMm: h,
        thicknessMm,
        mode: 'own',
      })
      if (stack.interface.length === 0)
        throw new TenderError(
          'VALUE_OUT_OF_RANGE',
          `With ${h} mm layers no interface can end ${gap} mm below a tile. Another layer height, or more interface layers, would do.`,
        )
      const standTop = stack.standTopMm
      const interfaceTop = underside - gap
      pieces.push({
        step,
        body: 'stand',
        slot: 0,
        solid: box(engine, [x, y, 0], [side, side, standTop]),
        boundariesMm: evenLayers(0, Math.round(standTop / h), h),
        phase: 0,
        lay: { kind: 'lines', angleDeg: 0, density: STAND_DENSITY, solidFirst: true },
      })
      pieces.push({
        step,
        body: 'interface',
        slot: 1,
        solid: box(engine, [x, y, standTop], [side, side, interfaceTop - standTop]),
        boundariesMm: [standTop, ...stack.interface.map((one) => one.topMm)],
        phase: 1,
        // Across the first lines of the tile above.
        lay: {
          kind: 'lines',
          angleDeg: partLineAngleDeg(0) + 90,
          density: w / (w + spacing),
          solidFirst: false,
        },
      })
      pieces.push({
        step,
        body: 'part',
        slot: 0,
        solid: box(engine, [x, y, underside], [side, side, top - underside]),
        boundariesMm: evenLayers(underside, tileLayers, h),
        phase: 2,
        lay: { kind: 'part', walls: 2, fillDensity: 1 },
      })
      const lines = coupon.spacingsMm.length > 1 ? [markText(gap), `/${markText(spacing)}`] : [markText(gap)]
      const sizes = lines.map((text) => markSize(text, w))
      const tall = sizes.reduce((sum, one) => sum + one.heightMm + w, -w)
      if (tall > side || sizes.some((one) => one.widthMm > side))
        throw new TenderError(
          'VALUE_OUT_OF_RANGE',
          `A tile of ${side.toFixed(1)} mm has no room for its mark "${lines.join(' ')}". Make the tiles larger or the gaps rounder.`,
        )
      let my = y + (side + tall) / 2
      lines.forEach((text, i) => {
        my -= sizes[i].heightMm
        pieces.push(
          markPiece(
            markSolid(engine, text, w, [x + (side - sizes[i].widthMm) / 2, my, top], MARK_LAYERS * h),
            0,
            top,
            size,
            3,
          ),
        )
        my -= w
      })
    }),
  )
  return pieces
}
