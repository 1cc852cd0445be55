import type { PrinterFields } from '@tender/contract'
import { useTheme } from 'styled-components'

/** The printer from the front, its room in proportion: bed, gantry, and a nozzle for each or one with a changer above it. */
export function PrinterDrawing({ printer: { bedMm, heightMm, feed, loads } }: { printer: Pick<PrinterFields, 'bedMm' | 'heightMm' | 'feed' | 'loads'> }) {
  const { color } = useTheme()
  const scale = 92 / Math.max(bedMm[0], heightMm, 1)
  const width = bedMm[0] * scale
  const height = heightMm * scale
  const left = 66 - width / 2
  const bed = 116
  const gantry = bed - height
  const nozzles = feed === 'nozzles' ? Math.min(loads, 4) : 1
  const hues = [color.part, color.interface, color.stand, color.footing, color.purge]
  return (
    <svg viewBox="0 0 132 128" role="img" aria-label={`Room of ${bedMm[0]} by ${bedMm[1]} by ${heightMm} mm`}>
      <rect x={left} y={gantry} width={width} height={height} fill={color.paper} stroke={color.line} strokeDasharray="3 3" />
      <path d={`M${left - 8} ${bed}H${left + width + 8}`} stroke={color.ink} strokeWidth="2.4" />
      <path d={`M${left - 8} ${gantry}H${left + width + 8}`} stroke={color.partDeep} strokeWidth="3" />
      {Array.from({ length: nozzles }, (_, i) => {
        const x = 66 + (i - (nozzles - 1) / 2) * 20
        return <path key={i} d={`M${x - 6} ${gantry - 3}h12v13l-4 6h-4l-4 -6z`} fill={feed === 'nozzles' ? hues[i] : color.partDeep} />
      })}
      {feed === 'changer' &&
        Array.from({ length: Math.min(loads, 5) }, (_, i) => {
          const x = 66 + (i - (Math.min(loads, 5) - 1) / 2) * 15
          return (
            <g key={i}>
              <path d={`M${x} ${gantry - 13}Q${x} ${gantry - 6} 66 ${gantry - 3}`} fill="none" stroke={color.soft} />
              <circle cx={x} cy={gantry - 15} r="5" fill={hues[i]} />
            </g>
          )
        })}
    </svg>
  )
}
