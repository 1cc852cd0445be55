import type { FanFit } from '@tender/core/trial'
import { useTheme } from 'styled-components'

const BEARING: Record<string, number> = {
  north: 0,
  'north-east': 45,
  east: 90,
  'south-east': 135,
  south: 180,
  'south-west': 225,
  west: 270,
  'north-west': 315,
}
const LOWEST = 35
const HIGHEST = 72

/** How far each side copes, as seen from above: the farther out, the steeper it may lean. */
export function CompassPicture({ fit }: { fit: FanFit }) {
  const { color, font } = useTheme()
  const known = fit.directions.filter(({ direction }) => direction in BEARING)
  if (known.length < 3) return null
  const at = (direction: string, angle: number): [number, number] => {
    const r = (66 * Math.max(0, Math.min(HIGHEST, angle) - LOWEST)) / (HIGHEST - LOWEST)
    const turn = (BEARING[direction] * Math.PI) / 180
    return [100 + r * Math.sin(turn), 92 - r * Math.cos(turn)]
  }
  const sorted = known.toSorted((a, b) => BEARING[a.direction] - BEARING[b.direction])
  const outline = (angle: (one: (typeof known)[number]) => number) =>
    sorted.map((one) => at(one.direction, angle(one)).join(',')).join(' ')
  const says = sorted
    .map(
      (one) =>
        `${one.direction} ${one.freeAngle.cautiousDeg.toFixed(0)}° to ${one.freeAngle.highDeg.toFixed(0)}°`,
    )
    .join(', ')
  return (
    <svg
      viewBox="0 0 200 184"
      role="img"
      aria-label={`Cautious to highest free angle by side: ${says}.`}
      style={{ width: '100%', maxWidth: 230, display: 'block', margin: '0 auto' }}
    >
      {[40, 50, 60, 70].map((angle) => (
        <circle
          key={angle}
          cx="100"
          cy="92"
          r={(66 * (angle - LOWEST)) / (HIGHEST - LOWEST)}
          fill="none"
          stroke={color.faint}
        />
      ))}
      <polygon points={outline((one) => one.freeAngle.highDeg)} fill={color.damsonWash} />
      <polygon
        points={outline((one) => one.freeAngle.cautiousDeg)}
        fill={color.sheet}
        stroke={color.damson}
        strokeWidth="2"
      />
      {sorted.map((one) => {
        const [x, y] = at(one.direction, HIGHEST).map(
          (value, i) => (i === 0 ? 100 : 92) + (value - (i === 0 ? 100 : 92)) * (i === 0 ? 1.26 : 1.14),
        )
        return (
          <text
            key={one.direction}
            x={x}
            y={y + 4}
            textAnchor="middle"
            fontSize="11"
            fontFamily={font.mono}
            fill={one.direction === fit.worst ? color.wine : color.soft}
            fontWeight={one.direction === fit.worst ? 700 : 400}
          >
            {one.direction.charAt(0).toUpperCase()} {one.freeAngle.cautiousDeg.toFixed(0)}°
          </text>
        )
      })}
    </svg>
  )
}
