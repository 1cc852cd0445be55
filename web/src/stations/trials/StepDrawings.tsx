import type { StepReading } from '@tender/contract'
import type { Step } from '@tender/core/trial'
import { useTheme } from 'styled-components'
import { gradeColour, gradeInk } from '../../drawings/grades'
import { ON_ROLE } from '../../theme/palette'

/** One arm of a fan from the side, leaning as it was printed, in the colour of its grade. */
export function ArmDrawing({
  step,
  reading,
}: {
  step: Step & { kind: 'fan' }
  reading: StepReading | undefined
}) {
  const { color, font } = useTheme()
  const lean = (step.angleDeg * Math.PI) / 180
  const grade = reading?.grade ?? null
  const [dx, dy] = [Math.sin(lean) * 38, Math.cos(lean) * 38]
  // A plate of even thickness, cut off level at both ends.
  const level = Math.min(24, 7.5 / Math.cos(lean))
  return (
    <svg
      viewBox="0 0 76 66"
      aria-hidden
      style={{ width: '100%', maxHeight: 78, opacity: reading?.leftOut ? 0.4 : 1 }}
    >
      <path
        d={`M8 51l${dx} ${-dy}h${level}l${-dx} ${dy}z`}
        fill={grade === null ? color.line : gradeColour(grade)}
      />
      <path d="M3 51H73" stroke={color.ink} strokeWidth="1.4" />
      <Badge shape="circle" x={64} grade={grade} />
      <text x="38" y="63" fontSize="11.5" textAnchor="middle" fontFamily={font.mono} fill={color.soft}>
        {step.angleDeg}°
      </text>
    </svg>
  )
}

/** One tile of a gap ladder from the side: the tile, the gap drawn larger, the interface and its stand. */
export function TileDrawing({
  step,
  reading,
}: {
  step: Step & { kind: 'gap' }
  reading: StepReading | undefined
}) {
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
      {[0, 1].map((row) =>
        Array.from({ length: 7 }, (_, i) => (
          <rect
            key={`${row}${i}`}
            x={5 + i * 10.2}
            y={top + row * 9}
            width="8.6"
            height="7.6"
            rx="3.4"
            fill={color.interface}
          />
        )),
      )}
      {Array.from({ length: rows }, (_, row) =>
        [0, 1, 2, 3].map((i) => (
          <rect
            key={`${row}${i}`}
            x={7 + i * 20}
            y={top + 19 + row * 12}
            width="6.4"
            height="10.6"
            rx="3"
            fill={color.stand}
          />
        )),
      )}
      <path d={`M0 ${bed}H80`} stroke={color.ink} strokeWidth="2" />
    </svg>
  )
}

/** One bridge of a ladder from the side: two piers and the deck between, sagging as it was graded. */
export function BridgeDrawing({
  step,
  reading,
  longest,
}: {
  step: Step & { kind: 'span' }
  reading: StepReading | undefined
  longest: number
}) {
  const { color, font } = useTheme()
  const grade = reading?.grade ?? null
  const half = 10 + 22 * (step.spanMm / longest)
  const sag = grade === null ? 0 : [0, 3, 6, 11, 16][grade - 1]
  const [left, right] = [40 - half, 40 + half]
  return (
    <svg
      viewBox="0 0 80 74"
      aria-hidden
      style={{ width: '100%', maxHeight: 84, opacity: reading?.leftOut ? 0.4 : 1 }}
    >
      <path d={`M${left - 6} 30h6v26h-6zM${right} 30h6v26h-6z`} fill={color.line} />
      <path
        d={`M${left - 6} 24H${right + 6}V30H${right}Q40 ${30 + 2 * sag} ${left} 30H${left - 6}z`}
        fill={grade === null ? color.line : gradeColour(grade)}
      />
      <path d="M3 56H77" stroke={color.ink} strokeWidth="1.4" />
      <Badge shape="circle" x={40} grade={grade} />
      <text x="40" y="70" fontSize="11.5" textAnchor="middle" fontFamily={font.mono} fill={color.soft}>
        {step.spanMm}
      </text>
    </svg>
  )
}

/** How much of the old colour a strip of each grade still shows. */
const LEFT_OVER = [0, 0.1, 0.28, 0.55, 0.85]

/** One strip of a purge ladder from above, in its new colour with what is left of the old. */
export function StripDrawing({
  step,
  reading,
  colours,
}: {
  step: Step & { kind: 'purge' }
  reading: StepReading | undefined
  colours: { readonly a: string; readonly b: string }
}) {
  const { color, font } = useTheme()
  const grade = reading?.grade ?? null
  const [from, to] = step.swap === 'AB' ? [colours.a, colours.b] : [colours.b, colours.a]
  return (
    <svg
      viewBox="0 0 60 118"
      aria-hidden
      style={{ width: '100%', maxHeight: 128, opacity: reading?.leftOut ? 0.4 : 1 }}
    >
      <Badge shape="circle" x={30} grade={grade} />
      <rect
        x="12"
        y="30"
        width="36"
        height="68"
        rx="2"
        fill={grade === null ? 'none' : to}
        stroke={color.soft}
        strokeDasharray={grade === null ? '3 2.4' : undefined}
        strokeWidth="1"
      />
      {grade !== null &&
        Array.from({ length: 6 }, (_, i) => (
          <rect
            key={i}
            x={15 + 5.4 * i}
            y="31"
            width="2.6"
            height="66"
            fill={from}
            opacity={LEFT_OVER[grade - 1]}
          />
        ))}
      <text x="30" y="113" fontSize="11.5" textAnchor="middle" fontFamily={font.mono} fill={color.soft}>
        {step.volumeMm3}
      </text>
    </svg>
  )
}

/**
 * A pair of teeth from above, or of pads from the side; the second one stands off by its shift, drawn much
 * larger.
 */
export function ToothDrawing({
  step,
  reading,
  largest,
}: {
  step: Step & { kind: 'offset' }
  reading: StepReading | undefined
  largest: number
}) {
  const { color, font } = useTheme()
  const grade = reading?.grade ?? null
  const off = (11 * step.shiftMm) / largest
  const stroke = grade === 1 ? color.damson : color.interface
  return (
    <svg
      viewBox="0 0 60 92"
      aria-hidden
      style={{ width: '100%', maxHeight: 100, opacity: reading?.leftOut ? 0.4 : 1 }}
    >
      {step.axis === 'z' ? (
        <>
          <rect x="8" y="48" width="20" height="24" fill={color.part} />
          <rect x="32" y={48 - off} width="20" height={24 + off} fill={stroke} />
          <path d="M4 72H56" stroke={color.ink} strokeWidth="1.4" />
        </>
      ) : (
        <>
          <rect x="26" y="52" width="8" height="22" fill={color.part} />
          <rect x={26 + off} y="27" width="8" height="22" fill={stroke} />
        </>
      )}
      <Badge shape="circle" x={30} grade={grade} />
      <text x="30" y="88" fontSize="11.5" textAnchor="middle" fontFamily={font.mono} fill={color.soft}>
        {Math.round(step.shiftMm * 100)}
      </text>
    </svg>
  )
}

function Badge({
  shape,
  x,
  grade,
}: {
  shape: 'circle' | 'square'
  x: number
  grade: 1 | 2 | 3 | 4 | 5 | null
}) {
  const { color, font } = useTheme()
  const look =
    grade === null
      ? { fill: 'none', stroke: color.soft, strokeDasharray: '3 2.4' }
      : { fill: gradeColour(grade) }
  return (
    <>
      {shape === 'circle' ? (
        <circle cx={x} cy="14" r="10" {...look} />
      ) : (
        <rect x={x - 9.5} y="4.5" width="19" height="19" rx="4" {...look} />
      )}
      {grade !== null && (
        <text
          x={x}
          y="18.4"
          textAnchor="middle"
          fontSize="12"
          fontWeight="500"
          fontFamily={font.mono}
          fill={gradeInk(grade)}
        >
          {grade}
        </text>
      )}
    </>
  )
}
