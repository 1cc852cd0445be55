import { PURGE_PURPOSES, type PurgeCurve, type PurgeFit } from '@tender/core/trial'
import { useMemo } from 'react'
import { Chart } from '../../../drawings/Chart'
import { chartStyle } from '../../../drawings/chartStyle'
import { usePalette } from '../../../theme/useScheme'
import type { SwapNames } from '../trialKinds'
import { Legend, Stroke } from './ChartLegend'

const DASHES = { AB: 'solid', BA: 'dashed' } as const

/**
 * What is left of the old filament over the volume, each swap for itself; the shares that the three purposes
 * allow as levels.
 */
export function PurgeChart({
  fit,
  curves,
  names,
  says,
}: {
  fit: PurgeFit
  /** Of each swap of the fit. */ curves: readonly PurgeCurve[]
  names: SwapNames
  says: string
}) {
  const palette = usePalette()
  const option = useMemo(() => {
    const style = chartStyle(palette)
    return {
      grid: { left: 44, right: 14, top: 12, bottom: 34 },
      xAxis: {
        ...style.axis,
        min: 0,
        max: 400,
        interval: 100,
        name: 'volume since the swap in mm³',
        nameLocation: 'middle',
        nameGap: 24,
      },
      yAxis: {
        ...style.axis,
        type: 'log',
        min: 0.002,
        max: 1,
        axisLabel: {
          ...style.axis.axisLabel,
          formatter: (share: number) => `${Number((share * 100).toPrecision(1))} %`,
        },
      },
      series: [
        ...fit.swaps.flatMap(({ swap }, i) => {
          const curve = curves[i]
          const line = (values: Float64Array) =>
            Array.from(curve.volumesMm3, (volume, i) => [volume, Math.max(0.0005, values[i])])
          return [
            { ...style.line(palette.ink, DASHES[swap], 2), data: line(curve.median) },
            { ...style.line(palette.line, DASHES[swap], 1), data: line(curve.low) },
            { ...style.line(palette.line, DASHES[swap], 1), data: line(curve.high) },
          ]
        }),
        {
          ...style.line(palette.damson, 'dotted', 0),
          data: [],
          markLine: {
            silent: true,
            symbol: 'none',
            lineStyle: { color: palette.damson, width: 1, type: 'dotted' },
            data: [
              [PURGE_PURPOSES.light, 'light face'],
              [PURGE_PURPOSES.strength, 'strong part'],
              [PURGE_PURPOSES.throwAway, 'stand'],
            ].map(([yAxis, name]) => ({
              yAxis,
              label: {
                formatter: String(name),
                position: 'insideEndTop',
                color: palette.damson,
                fontSize: 11,
              },
            })),
          },
        },
      ],
    }
  }, [curves, fit, palette])
  return (
    <>
      <Chart option={option} height={220} says={says} />
      {fit.swaps.length > 1 && (
        <Legend aria-hidden>
          <Stroke color={palette.ink} /> {names.a} to {names.b}
          <Stroke color={palette.ink} dashes="6 4" /> back
        </Legend>
      )}
    </>
  )
}
