import styled, { useTheme } from 'styled-components'
import type { CouponLayer as Lines } from '../workers/couponWork'
import { NozzleMark } from './NozzleMark'
import { linesPath } from './regionPath'

const MARGIN_MM = 4

/** A height of a coupon from above, every line as it is printed, each in its filament's colour. */
export function CouponLayer({
  layer: { boxMm, lines },
  colours,
  lineWidthMm,
  nozzleMm,
  says,
}: {
  layer: Lines
  colours: readonly string[]
  lineWidthMm: number
  nozzleMm: readonly [number, number] | null
  says: string
}) {
  const { color } = useTheme()
  return (
    <Svg
      viewBox={`${boxMm.minX - MARGIN_MM} ${-boxMm.maxY - MARGIN_MM} ${boxMm.maxX - boxMm.minX + 2 * MARGIN_MM} ${boxMm.maxY - boxMm.minY + 2 * MARGIN_MM}`}
      role="img"
      aria-label={says}
    >
      <rect
        x={boxMm.minX - MARGIN_MM / 2}
        y={-boxMm.maxY - MARGIN_MM / 2}
        width={boxMm.maxX - boxMm.minX + MARGIN_MM}
        height={boxMm.maxY - boxMm.minY + MARGIN_MM}
        rx="2"
        fill={color.paper}
        stroke={color.line}
        strokeWidth="0.4"
      />
      {lines.map(({ slot, xyMm, starts }, i) => (
        <path
          key={i}
          d={linesPath(xyMm, starts)}
          fill="none"
          stroke={colours[slot]}
          strokeWidth={0.8 * lineWidthMm}
        />
      ))}
      {nozzleMm && <NozzleMark atMm={nozzleMm} />}
    </Svg>
  )
}

const Svg = styled.svg`
  display: block;
  width: 100%;
  height: 100%;
`
