import { useTheme } from 'styled-components'

/** Where a nozzle is in a drawing from above. */
export function NozzleMark({ atMm: [x, y] }: { atMm: readonly [number, number] }) {
  const { color } = useTheme()
  return (
    <g transform={`translate(${x} ${-y})`} stroke={color.damson} fill="none">
      <circle r="1.6" strokeWidth="0.7" />
      <path d="M-4 0h2.4M1.6 0h2.4M0 -4v2.4M0 1.6v2.4" strokeWidth="0.5" />
    </g>
  )
}
