import { useId, useMemo, type PointerEvent } from 'react'
import styled, { useTheme } from 'styled-components'
import { reachAlong, type Cuttable, type Section } from '@tender/core/plan'
import { planning } from '../workers/geometry'
import { spansPath } from './regionPath'
import { usePlanView } from './usePlanView'

type Props = {
  outcome: Cuttable & {
    /** Sections through the middle that are known already. */ readonly sections?: Readonly<
      Record<number, Section>
    >
  }
  directionDeg: number
  atMm: number
  /** Where the layer lies that is looked at beside it, and who is told when it is pulled elsewhere. */
  zMm?: number
  onCut?: (zMm: number) => void
}

const MARGIN = 6

/** An upright cut through part and supports, layer for layer; strokes hang where the part leans too far. */
export function SectionView({ outcome, directionDeg, atMm, zMm, onCut }: Props) {
  const { color, font } = useTheme()
  const pattern = useId()
  const { bounds, heightMm, undersides } = outcome
  const section = usePlanView(
    async () =>
      (atMm === 0 ? outcome.sections?.[directionDeg] : undefined) ??
      planning().section(outcome.id, directionDeg, atMm),
    [outcome.id, directionDeg, atMm],
  )
  const paths = useMemo(
    () =>
      section && {
        part: spansPath(section.part),
        stand: spansPath(section.stand),
        interface: spansPath(section.interface),
        tower: spansPath(section.tower),
        hachures: hachures(section.hanging),
      },
    [section],
  )
  const [left, right] = reachAlong(bounds, directionDeg)
  const width = right - left + 2 * MARGIN
  const height = heightMm + 2 * MARGIN
  const unit = Math.max(width, height * 1.4) / 600
  const pull = (event: PointerEvent<SVGSVGElement>) => {
    if (event.buttons !== 1 || !onCut) return
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(
      event.currentTarget.getScreenCTM()!.inverse(),
    )
    onCut(Math.max(0, Math.min(heightMm, -at.y)))
  }
  return (
    <Svg
      viewBox={`${left - MARGIN} ${-heightMm - MARGIN} ${width} ${height}`}
      role="img"
      aria-label={`Section ${directionDeg === 0 ? 'across' : directionDeg === 90 ? 'front to back' : `at ${directionDeg}°`}: ${undersides} undersides need holding${zMm === undefined ? '' : `, cut at ${zMm.toFixed(2)} mm`}.`}
      $pulled={onCut !== undefined}
      onPointerDown={pull}
      onPointerMove={pull}
    >
      <defs>
        <pattern id={pattern} width={2.4} height="4" patternUnits="userSpaceOnUse">
          <rect width="2.4" height="4" fill={color.standWash} />
          <path d="M1.2 0v4" stroke={color.stand} strokeWidth="0.75" />
        </pattern>
      </defs>
      <g stroke={color.faint} strokeWidth={unit}>
        {gridLines(left, right, 10).map((x) => (
          <path key={`x${x}`} d={`M${x} 0V${-heightMm}`} />
        ))}
        {gridLines(0.001, heightMm, 10).map((z) => (
          <path key={`z${z}`} d={`M${left - 4} ${-z}H${right + 4}`} />
        ))}
      </g>
      {paths && (
        <>
          <path d={paths.tower} fill={color.purge} />
          <path d={paths.stand} fill={`url(#${pattern})`} />
          <path d={paths.interface} fill={color.interface} />
          <path d={paths.part} fill={color.part} />
          <path d={paths.hachures} stroke={color.ink} strokeWidth={unit * 1.1} fill="none" />
        </>
      )}
      <path d={`M${left - 4} 0H${right + 4}`} stroke={color.ink} strokeWidth={unit * 2} />
      <text x={left - 4} y={unit * 14} fontSize={unit * 11} fill={color.soft} fontFamily={font.mono}>
        bed
      </text>
      {zMm !== undefined && <CutLine {...{ zMm, left, right, unit }} />}
    </Svg>
  )
}

type CutLineProps = { zMm: number; left: number; right: number; unit: number }

function CutLine({ zMm, left, right, unit }: CutLineProps) {
  const { color, font } = useTheme()
  return (
    <>
      <path
        d={`M${left - 4} ${-zMm}H${right + 4}`}
        stroke={color.damson}
        strokeWidth={unit * 1.4}
        strokeDasharray={`${unit * 5} ${unit * 4}`}
      />
      <g transform={`translate(${right + 5} ${-zMm})`}>
        <rect
          x={-unit * 52}
          y={-unit * 10}
          width={unit * 56}
          height={unit * 20}
          rx={unit * 6}
          fill={color.damson}
        />
        <text
          x={-unit * 24}
          y={unit * 4}
          fontSize={unit * 12}
          textAnchor="middle"
          fill={color.onDamson}
          fontFamily={font.mono}
        >
          {zMm.toFixed(2)}
        </text>
      </g>
    </>
  )
}

const gridLines = (from: number, to: number, step: number) =>
  Array.from(
    { length: Math.max(0, Math.floor(to / step) - Math.ceil(from / step) + 1) },
    (_, i) => (Math.ceil(from / step) + i) * step,
  )

/**
 * One stroke for each lattice point under a hanging span: a slope of many short steps gets no more strokes
 * than a ceiling.
 */
function hachures(hanging: Float64Array): string {
  const apart = 1.3
  const parts: string[] = []
  for (let i = 0; i < hanging.length; i += 4) {
    const [from, to, bottom] = [hanging[i], hanging[i + 1], hanging[i + 2]]
    const flat = Math.min(1, (to - from) / 3)
    for (let k = Math.ceil(from / apart); k * apart <= to; k++)
      parts.push(`M${(k * apart).toFixed(3)} ${(-bottom).toFixed(3)}l0.25 ${(0.9 + 0.7 * flat).toFixed(2)}`)
  }
  return parts.join('')
}

const Svg = styled.svg<{ $pulled: boolean }>`
  width: 100%;
  height: 100%;
  display: block;
  ${({ $pulled }) => $pulled && 'touch-action: none; cursor: row-resize;'}
`
