import type { FanFit, FanReading, Grade } from '@tender/core/trial'
import { useMemo } from 'react'
import { Chart } from '../../drawings/Chart'
import { chartStyle } from '../../drawings/chartStyle'
import { usePalette } from '../../theme/useScheme'

/** Chance of a good arm over the angle, the readings behind it, and the span that the limit lies in. */
export function FanChart({ fit, readings, accept, says, height = 200 }: { fit: FanFit; readings: readonly FanReading[]; accept: Grade; says: string; height?: number }) {
  const palette = usePalette()
  const option = useMemo(() => {
    const style = chartStyle(palette)
    const directions = [...new Set(readings.map((reading) => reading.direction))]
    const dot = ({ angleDeg, grade, direction }: FanReading) => {
      const good = grade <= accept
      // Directions are set apart a little, so that equal readings stay countable.
      const apart = 0.035 * directions.indexOf(direction)
      return { value: [angleDeg, good ? 1 - apart : apart], symbol: good ? 'circle' : 'diamond', itemStyle: { color: good ? palette.pine : palette.wine } }
    }
    const { lowDeg, highDeg, cautiousDeg } = fit.freeAngle
    return {
      grid: { left: 8, right: 14, top: 26, bottom: 34 },
      xAxis: { ...style.axis, min: 20, max: 85, interval: 10, name: '° from vertical', nameLocation: 'middle', nameGap: 24, axisLabel: { ...style.axis.axisLabel, showMinLabel: true } },
      yAxis: { ...style.axis, min: -0.06, max: 1.06, show: false },
      series: [
        {
          ...style.line(palette.ink, 'solid'),
          data: Array.from(fit.curve.anglesDeg, (angle, i) => [angle, fit.curve.good[i]]),
          markArea: style.band(lowDeg, highDeg),
          markLine: style.rule(cautiousDeg, `${cautiousDeg.toFixed(0)}°`),
        },
        { type: 'scatter', symbolSize: 8, silent: true, data: readings.map(dot) },
      ],
    }
  }, [fit, readings, accept, palette])
  return <Chart option={option} height={height} says={says} />
}
