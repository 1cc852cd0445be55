import type { KnownPairing } from '@tender/core/pairing'
import { useTheme } from 'styled-components'
import { chance } from '../../format/numbers'

/**
 * Two filaments and what holds them together: the more they cling, the nearer they lie and the more threads
 * run between them; welded, they are one.
 */
export function PairingCell({ known, small }: { known: KnownPairing; small: boolean }) {
  const { color, font } = useTheme()
  const { cling, source, fit } = known
  const welded = cling === 4
  const threads = Math.ceil(cling)
  const gap = welded ? 0 : 4 + 3.6 * (4 - cling)
  const top = 22 - gap / 2
  const x = (i: number) => 30 + (i - (threads - 1) / 2) * 12
  return (
    <svg viewBox={small ? '6 4 48 36' : '0 0 60 58'} aria-hidden>
      <rect x="11" y={top - 9} width="38" height="9" rx={welded ? 1 : 2.5} fill={color.part} />
      <rect
        x="11"
        y={top + gap}
        width="38"
        height="9"
        rx={welded ? 1 : 2.5}
        fill={welded ? color.part : color.interface}
      />
      {welded && <path d="M11 22H49" stroke={color.sheet} strokeWidth="0.8" strokeDasharray="2 2" />}
      {!welded &&
        Array.from({ length: threads }, (_, i) => (
          <path
            key={i}
            d={`M${x(i)} ${top}V${top + gap}`}
            stroke={color.ink}
            strokeWidth={cling % 1 !== 0 && i === threads - 1 ? 0.8 : 1.6}
          />
        ))}
      {!small && (
        <text
          x="30"
          y="54"
          fontSize="9.5"
          textAnchor="middle"
          fontFamily={font.mono}
          fill={source === 'measured' ? color.ink : color.soft}
        >
          {source === 'measured' ? chance(fit.pTender) : 'guess'}
        </text>
      )}
    </svg>
  )
}
