import type { Contact } from '@tender/core/plan'
import { useTheme } from 'styled-components'

const [LEFT, RIGHT, TOP, HEIGHT] = [62, 196, 6, 196]

/**
 * One contact, magnified: its layers in true proportion, the gap between interface and part as it will come
 * out.
 */
export function StackLoupe({
  contact,
  layerHeightMm,
  lineWidthMm,
  spacingMm,
  standDensity,
}: {
  contact: Contact
  layerHeightMm: number
  lineWidthMm: number
  spacingMm: number
  standDensity: number
}) {
  const { color, font } = useTheme()
  const rows = [...contact.stack].reverse()
  const gapMm = contact.achievedGapMm ?? 0
  const underside = rows.length > 0 ? rows[0].topMm + gapMm : contact.zMm
  const part = [1, 0].map((n) => ({
    role: 'part' as const,
    bottomMm: underside + n * layerHeightMm,
    topMm: underside + (n + 1) * layerHeightMm,
  }))
  const all = [...part, ...rows]
  const top = part[0].topMm
  const bottom = all.at(-1)!.bottomMm
  const scale = (HEIGHT - TOP * 2) / (top - bottom)
  const y = (z: number) => TOP + (top - z) * scale
  const beads = { part: lineWidthMm, interface: lineWidthMm + spacingMm, stand: lineWidthMm / standDensity }
  const fill = { part: color.part, interface: color.interface, stand: color.stand }
  const bead = 18
  // Names stand away from the gap, whose own label needs the room.
  const named = [
    all[0],
    ...(['interface', 'stand'] as const).map((role) => all.findLast((row) => row.role === role)),
  ]
  return (
    <svg
      viewBox={`0 0 244 ${HEIGHT}`}
      role="img"
      aria-label={
        rows.length === 0
          ? 'Nothing stands under this underside.'
          : `Stack of ${rows.length} layers below the part, gap ${gapMm.toFixed(2)} mm.`
      }
      style={{ width: '100%', display: 'block' }}
    >
      {all.map((row) => {
        const apart = Math.max(bead, (beads[row.role] / lineWidthMm) * bead)
        const count = Math.max(1, Math.floor((RIGHT - LEFT - bead) / apart) + 1)
        const height = (row.topMm - row.bottomMm) * scale
        const middle = y(row.topMm) + height / 2
        return (
          <g key={`${row.role}${row.bottomMm}`}>
            {Array.from({ length: count }, (_, i) => (
              <rect
                key={i}
                x={LEFT + (RIGHT - LEFT - (count - 1) * apart - bead) / 2 + i * apart}
                y={y(row.topMm) + 0.5}
                width={bead - 0.8}
                height={Math.max(1, height - 1)}
                rx={Math.min(6, height / 2.4)}
                fill={fill[row.role]}
              />
            ))}
            {height > 9 && (
              <text x={RIGHT + 8} y={middle + 4} fontSize="11" fill={color.soft} fontFamily={font.mono}>
                {(row.topMm - row.bottomMm).toFixed(2)}
              </text>
            )}
            {named.includes(row) && (
              <text
                x={LEFT - 8}
                y={middle + 4}
                fontSize="11.5"
                textAnchor="end"
                fill={color.ink}
                fontFamily={font.sans}
              >
                {row.role}
              </text>
            )}
          </g>
        )
      })}
      {rows.length > 0 && (
        <>
          <path
            d={`M${LEFT - 10} ${y(underside)}H${RIGHT}M${LEFT - 10} ${y(rows[0].topMm)}H${RIGHT}`}
            stroke={color.damson}
            strokeWidth="1.3"
          />
          <text
            x={RIGHT + 8}
            y={(y(underside) + y(rows[0].topMm)) / 2 + 4}
            fontSize="12"
            fontWeight="500"
            fill={color.damson}
            fontFamily={font.mono}
          >
            {gapMm.toFixed(2)}
          </text>
          <text
            x={LEFT - 12}
            y={(y(underside) + y(rows[0].topMm)) / 2 + 4}
            fontSize="11.5"
            textAnchor="end"
            fill={color.damson}
            fontFamily={font.sans}
          >
            gap
          </text>
        </>
      )}
    </svg>
  )
}
