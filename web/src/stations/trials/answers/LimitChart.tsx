import { useMemo } from 'react'
import { Chart } from '../../../drawings/Chart'
import { chartStyle } from '../../../drawings/chartStyle'
import { usePalette } from '../../../theme/useScheme'

type Props = {
  readonly xs: Float64Array
  /** Chance of a good step at each of xs. */
  readonly good: Float64Array
  readonly dots: readonly {
    readonly x: number
    readonly good: boolean
    /** Sets steps of one value apart. */ readonly lane: number
  }[]
  readonly low: number
  readonly high: number
  readonly cautious: number
  readonly show: (value: number) => string
  readonly axis: {
    readonly min: number
    readonly max: number
    readonly interval: number
    readonly name: string
  }
  readonly says: string
  readonly height?: number
}

/** Chance of a good step over its value, the readings behind it, and the span that the limit lies in. */
export function LimitChart({ xs, good, dots, low, high, cautious, show, axis, says, height = 200 }: Props) {
  const palette = usePalette()
  const option = useMemo(() => {
    const style = chartStyle(palette)
    return {
      grid: { left: 8, right: 14, top: 26, bottom: 34 },
      xAxis: {
        ...style.axis,
        ...axis,
        nameLocation: 'middle',
        nameGap: 24,
        axisLabel: { ...style.axis.axisLabel, showMinLabel: true },
      },
      yAxis: { ...style.axis, min: -0.06, max: 1.06, show: false },
      series: [
        {
          ...style.line(palette.ink, 'solid'),
          data: Array.from(xs, (x, i) => [x, good[i]]).filter(([x]) => x >= axis.min && x <= axis.max),
          markArea: style.band(Math.max(axis.min, low), Math.min(axis.max, high)),
          markLine: style.rule(cautious, show(cautious)),
        },
        {
          type: 'scatter',
          symbolSize: 8,
          silent: true,
          data: dots.map((dot) => ({
            value: [dot.x, dot.good ? 1 - 0.035 * dot.lane : 0.035 * dot.lane],
            symbol: dot.good ? 'circle' : 'diamond',
            itemStyle: { color: dot.good ? palette.pine : palette.wine },
          })),
        },
      ],
    }
  }, [xs, good, dots, low, high, cautious, show, axis, palette])
  return <Chart option={option} height={height} says={says} />
}
