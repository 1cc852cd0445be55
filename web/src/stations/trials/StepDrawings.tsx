import type { StepReading } from '@tender/contract'
import type { Step } from '@tender/core/trial'
import { useTheme } from 'styled-components'
import { gradeColour, gradeInk } from '../../drawings/grades'
import { ON_ROLE } from '../../theme/palette'

/** One arm of a fan from the side, leaning as it was printed, in the colour of its grade. */
export function ArmDrawing({ step, reading }: { step: Step & { kind: 'fan' }; reading: StepReading | undefined }) {
  const { color, font } = useTheme()
  const lean = (step.angleDeg * Math.PI) / 180
  const grade = reading?.grade ?? null
  const [dx, dy] = [Math.sin(lean) * 38, Math.cos(lean) * 38]
  // A plate of even thickness, cut off level at both ends.
  const level = Math.min(24, 7.5 / Math.cos(lean))
  return (
    <svg viewBox="0 0 76 66" aria-hidden style={{ width: '100%', maxHeight: 78, opacity: reading?.leftOut ? 0.4 : 1 }}>
      <path d={`M8 51l${dx} ${-dy}h${level}l${-dx} ${dy}z`} fill={grade === null ? color.line : gradeColour(grade)} />
      <path d="M3 51H73" stroke={color.ink} strokeWidth="1.4" />
      <Badge shape="circle" x={64} grade={grade} />
      <text x="38" y="63" fontSize="11.5" textAnchor="middle" fontFamily={font.mono} fill={color.soft}>
        {step.angleDeg}°
      </text>
    </svg>
  )
}

/** One tile of a gap ladder from the side: the tile, the gap drawn larger, the interface and its stand. */
export function TileDrawing({ step, reading }: { step: Step & { kind: 'gap' }; reading: StepReading | undefined }) {
  const { color, font } = useTheme()
  const gap = Math.min(60, step.gapMm * 150)
  const bed = 216
  const top = 86 + gap
  const rows = Math.max(0, Math.floor((bed - top - 18) / 12))
  return (
    <svg viewBox="0 0 80 224" aria-hidden style={{ width: '100%', opacity: reading?.leftOut ? 0.4 : 1 }}>
      <Badge shape="circle" x={26} grade={reading?.release ?? null} />
      <Badge shape="square" x={54} grade={reading?.finish ?? null} />
      <rect x="4" y="34" width="72" height="50" rx="3" fill={color.part} />
      <text x="40" y="64" textAnchor="middle" fontSize="14.5" fontFamily={font.mono} fill={ON_ROLE}>
        {step.gapMm.toFixed(2)}
      </text>
      {[0, 1].map((row) => Array.from({ length: 7 }, (_, i) => <rect key={`${row}${i}`} x={5 + i * 10.2} y={top + row * 9} width="8.6" height="7.6" rx="3.4" fill={color.interface} />))}
      {Array.from({ length: rows }, (_, row) => [0, 1, 2, 3].map((i) => <rect key={`${row}${i}`} x={7 + i * 20} y={top + 19 + row * 12} width="6.4" height="10.6" rx="3" fill={color.stand} />))}
      <path d={`M0 ${bed}H80`} stroke={color.ink} strokeWidth="2" />
    </svg>
  )
}

function Badge({ shape, x, grade }: { shape: 'circle' | 'square'; x: number; grade: 1 | 2 | 3 | 4 | 5 | null }) {
  const { color, font } = useTheme()
  const look = grade === null ? { fill: 'none', stroke: color.soft, strokeDasharray: '3 2.4' } : { fill: gradeColour(grade) }
  return (
    <>
      {shape === 'circle' ? <circle cx={x} cy="14" r="10" {...look} /> : <rect x={x - 9.5} y="4.5" width="19" height="19" rx="4" {...look} />}
      {grade !== null && (
        <text x={x} y="18.4" textAnchor="middle" fontSize="12" fontWeight="500" fontFamily={font.mono} fill={gradeInk(grade)}>
          {grade}
        </text>
      )}
    </>
  )
}
