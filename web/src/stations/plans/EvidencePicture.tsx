import type { Evidence, SpokenFor } from '@tender/core/decide'
import styled, { useTheme } from 'styled-components'

const [W, H, EDGE, BASE] = [286, 84, 10, 64]

type Scale = {
  readonly from: number
  readonly to: number
  readonly step: number
  readonly show: (value: number) => string
  readonly called: string
}

const PURGED: Scale = {
  from: 0,
  to: 500,
  step: 100,
  show: (value) => value.toFixed(0),
  called: 'Enough for what follows',
}
const SCALES: Record<SpokenFor, Scale> = {
  freeAngleDeg: { from: 20, to: 85, step: 10, show: (value) => value.toFixed(0), called: 'Limit' },
  freeSpanMm: { from: 0, to: 80, step: 20, show: (value) => value.toFixed(0), called: 'Limit' },
  supportSpanMm: { from: 0, to: 40, step: 10, show: (value) => value.toFixed(0), called: 'Limit' },
  leanDeg: { from: 10, to: 80, step: 10, show: (value) => value.toFixed(0), called: 'Limit' },
  upperGapMm: { from: 0, to: 0.5, step: 0.1, show: (value) => value.toFixed(2), called: 'Release window' },
  purgeMm3: PURGED,
  purgeAwayMm3: PURGED,
}

/**
 * What the evidence says and where the plan's value stands in it: an interval of angles, or the chance over
 * the gap.
 */
export function EvidencePicture({
  name,
  evidence,
  value,
}: {
  name: SpokenFor
  evidence: Evidence
  value: number
}) {
  const { color, font } = useTheme()
  const { from, to, step, show, called } = SCALES[name]
  const x = (at: number) => EDGE + ((Math.min(to, Math.max(from, at)) - from) / (to - from)) * (W - 2 * EDGE)
  const y = (share: number) => BASE - share * (BASE - 14)
  const curve = evidence.tender?.gapsMm
    .map((gap, i) => [gap, evidence.tender!.chance[i]] as const)
    .filter(([gap]) => gap <= to)
  const labels = Array.from({ length: Math.floor((to - from) / step + 1e-9) + 1 }, (_, i) => from + i * step)
  const between =
    evidence.low === null || evidence.high === null ? '' : ` ${show(evidence.low)} to ${show(evidence.high)}`
  const says = `${called}${between}, the plan has ${show(value)}.`
  return (
    <Svg viewBox={`0 0 ${W} ${H}`} role="img" aria-label={says}>
      {evidence.low !== null && evidence.high !== null && (
        <rect
          x={x(evidence.low)}
          y="10"
          width={Math.max(1, x(evidence.high) - x(evidence.low))}
          height={BASE - 10}
          fill={color.damsonWash}
        />
      )}
      {curve && (
        <path
          d={curve
            .map(([gap, share], i) => `${i === 0 ? 'M' : 'L'}${x(gap).toFixed(1)} ${y(share).toFixed(1)}`)
            .join('')}
          fill="none"
          stroke={color.ink}
          strokeWidth="1.8"
        />
      )}
      <path d={`M${EDGE} ${BASE}H${W - EDGE}`} stroke={color.soft} />
      <path d={`M${x(value)} 10V${BASE}`} stroke={color.damson} strokeWidth="2.2" />
      {labels.map((at) => (
        <text
          key={at}
          x={x(at)}
          y={BASE + 14}
          textAnchor="middle"
          fontSize="10.5"
          fill={color.soft}
          fontFamily={font.mono}
        >
          {step < 1 ? at.toFixed(1) : at}
        </text>
      ))}
    </Svg>
  )
}

const Svg = styled.svg`
  width: 100%;
  display: block;
`
