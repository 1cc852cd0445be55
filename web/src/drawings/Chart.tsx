import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent, MarkAreaComponent, MarkLineComponent } from 'echarts/components'
import { init, use as register, type ECharts, type EChartsCoreOption } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { useEffect, useRef } from 'react'

register([LineChart, ScatterChart, GridComponent, MarkAreaComponent, MarkLineComponent, SVGRenderer])

const stillness = matchMedia('(prefers-reduced-motion: reduce)')

/** A chart; `says` is the sentence that stands for it where it cannot be seen. */
export function Chart({ option, height, says }: { option: EChartsCoreOption; height: number; says: string }) {
  const place = useRef<HTMLDivElement>(null)
  const chart = useRef<ECharts>(null)
  useEffect(() => {
    const made = init(place.current!, null, { renderer: 'svg' })
    chart.current = made
    const watcher = new ResizeObserver(() => made.resize())
    watcher.observe(place.current!)
    return () => {
      watcher.disconnect()
      made.dispose()
    }
  }, [])
  useEffect(
    () =>
      chart.current?.setOption(
        { animation: !stillness.matches, animationDuration: 160, ...option },
        { notMerge: true },
      ),
    [option],
  )
  return <div ref={place} role="img" aria-label={says} style={{ height, width: '100%' }} />
}
