import type { Palette } from '../theme/palette'
import { theme } from '../theme/theme'

/** Axes and marks that all charts share. */
export const chartStyle = (palette: Palette) => ({
  axis: {
    type: 'value' as const,
    axisLine: { show: true, lineStyle: { color: palette.soft } },
    axisTick: { show: false },
    splitLine: { show: false },
    axisLabel: { color: palette.soft, fontFamily: theme.font.mono, fontSize: 11 },
    nameTextStyle: { color: palette.soft, fontFamily: theme.font.sans, fontSize: 12 },
  },
  line: (color: string, type: 'solid' | 'dashed' | 'dotted', width = 1.8) => ({
    type: 'line' as const,
    showSymbol: false,
    silent: true,
    lineStyle: { color, type, width },
    itemStyle: { color },
  }),
  band: (from: number, to: number) => ({
    silent: true,
    animationDuration: 160,
    itemStyle: { color: palette.damsonWash },
    data: [[{ xAxis: from }, { xAxis: to }]],
  }),
  rule: (at: number, label: string) => ({
    silent: true,
    symbol: 'none',
    animationDuration: 160,
    lineStyle: { color: palette.damson, width: 2, type: 'solid' as const },
    label: { formatter: label, color: palette.damson, fontFamily: theme.font.mono, fontSize: 12 },
    data: [{ xAxis: at }],
  }),
})
