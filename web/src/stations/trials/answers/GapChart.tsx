import type { GapFit } from '@tender/core/trial'
import { useMemo } from 'react'
import { Chart } from '../../../drawings/Chart'
import { chartStyle } from '../../../drawings/chartStyle'
import { usePalette } from '../../../theme/useScheme'
import { Legend, Stroke } from './ChartLegend'

/** Letting go, good face, and both at once, over the gap; the release window shaded. */
export function GapChart({ fit, says, height = 220 }: { fit: GapFit; says: string; height?: number }) {
  const palette = usePalette()
  const option = useMemo(() => {
    const style = chartStyle(palette)
    const { gapsMm, releases, finishes, tender } = fit.curve
    const upTo = Math.max(0.4, Math.min(0.8, fit.windowMm[1] + 0.15))
    const points = (values: Float64Array) =>
      Array.from(gapsMm, (gap, i) => [gap, values[i]]).filter(([gap]) => gap <= upTo + 1e-9)
    return {
      grid: { left: 12, right: 14, top: 30, bottom: 34 },
      xAxis: {
        ...style.axis,
        min: 0,
        max: upTo,
        interval: 0.1,
        name: 'gap in mm',
        nameLocation: 'middle',
        nameGap: 24,
      },
      yAxis: { ...style.axis, min: 0, max: 1.02, show: false },
      series: [
        { ...style.line(palette.soft, 'dotted'), name: 'good face', data: points(finishes) },
        { ...style.line(palette.clay, 'dashed'), name: 'lets go', data: points(releases) },
        {
          ...style.line(palette.ink, 'solid', 2.2),
          name: 'both',
          data: points(tender),
          markArea: style.band(fit.windowMm[0], fit.windowMm[1]),
          markLine: style.rule(fit.suggestedGapMm, fit.suggestedGapMm.toFixed(2)),
        },
      ],
    }
  }, [fit, palette])
  return (
    <>
      <Chart option={option} height={height} says={says} />
      <Legend aria-hidden>
        <Stroke color={palette.clay} dashes="6 4" /> lets go
        <Stroke color={palette.soft} dashes="2 3" /> good face
        <Stroke color={palette.ink} /> both
      </Legend>
    </>
  )
}
