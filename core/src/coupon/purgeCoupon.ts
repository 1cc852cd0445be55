import type { SolidEngine } from '../mesh'
import type { CouponOf } from '../trial'
import { markSize, markSolid, markText } from './marks'
import { box, MARK_LAYERS, markPiece, type CouponSize, type Piece } from './pieces'

/**
 * A purge ladder: strips printed one after the other straight after a swap, without purging. Each holds
 * exactly the volume between its mark and the one before, so the far end of a strip shows the filament after
 * as much has gone through as its mark says.
 */
export function purgeCoupon(engine: SolidEngine, coupon: CouponOf<'purge'>, size: CouponSize): Piece[] {
  const { layerHeightMm: h, lineWidthMm: w } = size
  // Each strip goes on from the one before, so they come by volume, however they were asked for.
  const marks = coupon.volumesMm3
    .toSorted((a, b) => a - b)
    .map((volume) => ({ volume, text: markText(volume), ...markSize(markText(volume), w) }))
  // Strips as wide as their marks, in whole lines.
  const lines = Math.max(16, ...marks.map((mark) => Math.ceil(mark.widthMm / w) + 2))
  const width = lines * w
  const strips: Piece[] = []
  const labels: Piece[] = []
  let y = 0
  // The swap back can only be read in a nozzle full of the second filament.
  const rows = coupon.swaps.includes('AB') ? coupon.swaps.toSorted() : (['wash', ...coupon.swaps] as const)
  rows.forEach((row, phase) => {
    const slot = row === 'BA' ? 0 : 1
    let longest = 0
    let before = 0
    marks.forEach(({ volume, text, widthMm }, i) => {
      const length = (volume - before) / (width * h)
      before = volume
      longest = Math.max(longest, length)
      const x = i * (width + 2)
      strips.push({
        step: row === 'wash' ? null : `${row}:${volume}`,
        body: slot === 0 ? 'part' : 'second',
        slot,
        solid: box(engine, [x, y, 0], [width, length, h]),
        boundariesMm: [0, h],
        phase,
        lay: { kind: 'ribbon' },
      })
      if (row !== 'wash')
        labels.push(
          markPiece(
            markSolid(engine, text, w, [x + (width - widthMm) / 2, y + w, h], MARK_LAYERS * h),
            0,
            h,
            size,
            rows.length,
          ),
        )
    })
    y += longest + 4
  })
  return [...strips, ...labels.filter(fits)]

  /** A strip shorter than its mark goes without: the marks beside it tell which it is. */
  function fits(label: Piece): boolean {
    const { min, max } = label.solid.boundingBox()
    const home = strips.find(({ solid, step }) => {
      const strip = solid.boundingBox()
      return (
        step !== null &&
        min[0] >= strip.min[0] &&
        max[0] <= strip.max[0] &&
        min[1] >= strip.min[1] &&
        max[1] <= strip.max[1]
      )
    })
    if (!home) label.solid.delete()
    return home !== undefined
  }
}
