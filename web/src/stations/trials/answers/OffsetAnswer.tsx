import {
  correctedOffsetMm,
  offsetSentence,
  hedged,
  whatIsMissing,
  type Axis,
  type OffsetFit,
  type OffsetReading,
} from '@tender/core/trial'
import { useTheme } from 'styled-components'
import { counted, gapMm, signed } from '../../../format/numbers'
import { Sentence, SheetTitle, SoftLine, Table } from '../../../ui/Sheet'
import { Skeleton } from '../../../ui/Skeleton'
import { useFit } from '../../../workers/useFit'
import { AnswerSheet, Missing } from './AnswerSheet'

export function OffsetAnswer({
  readings,
  stored,
  known,
}: {
  readings: readonly OffsetReading[]
  stored: Readonly<Record<Axis, number>>
  /** Whether the stored offset was noted with the print. */ known: boolean
}) {
  const fit = useFit(['offset', readings], (api) => api.offset(readings))
  if (!fit) return <Skeleton />
  const doubts = whatIsMissing({ kind: 'offset', fit })
  return (
    <AnswerSheet aria-label="Offset of the second nozzle">
      <SheetTitle>Offset of the second nozzle</SheetTitle>
      <Sentence>{hedged(offsetSentence(fit, stored), doubts)}</Sentence>
      {fit.axes.length > 0 && (
        <>
          <OffsetPicture fit={fit} />
          <Table>
            <thead>
              <tr>
                <th>Axis</th>
                <th className="right">lands off by</th>
                <th className="right">nine in ten</th>
                <th className="right">stored</th>
                <th className="right">type in</th>
              </tr>
            </thead>
            <tbody>
              {fit.axes.map(({ axis, errorMm }) => (
                <tr key={axis}>
                  <td>{axis.toUpperCase()}</td>
                  <td className="right">{signed(errorMm.median, gapMm)}</td>
                  <td className="right">
                    {signed(errorMm.low, (v) => v.toFixed(2))} to {signed(errorMm.high, (v) => v.toFixed(2))}
                  </td>
                  <td className="right">{signed(stored[axis], (v) => v.toFixed(2))}</td>
                  <td className="right">{signed(correctedOffsetMm(stored[axis], errorMm.median), gapMm)}</td>
                </tr>
              ))}
            </tbody>
          </Table>
          <SoftLine>
            {counted(fit.readings, 'pair')} named.{' '}
            {known
              ? 'Printers that count the offset the other way round take it with the sign turned.'
              : 'What the printer had stored was not noted with this print; the values are what it is off by.'}
          </SoftLine>
        </>
      )}
      <Missing sentences={doubts} />
    </AnswerSheet>
  )
}

const REACH = 0.35

/** Each axis as a rule with the error and its interval. */
function OffsetPicture({ fit }: { fit: OffsetFit }) {
  const { color, font } = useTheme()
  const x = (mm: number) => 150 + (125 * Math.max(-REACH, Math.min(REACH, mm))) / REACH
  return (
    <svg viewBox={`0 0 300 ${fit.axes.length * 34 + 22}`} aria-hidden style={{ width: '100%' }}>
      {fit.axes.map(({ axis, errorMm }, i) => {
        const y = 16 + 34 * i
        return (
          <g key={axis}>
            <text x="4" y={y + 5} fontSize="13" fontFamily={font.mono} fill={color.soft}>
              {axis.toUpperCase()}
            </text>
            <path d={`M25 ${y}H275`} stroke={color.line} />
            <rect
              x={x(errorMm.low)}
              y={y - 7}
              width={Math.max(2, x(errorMm.high) - x(errorMm.low))}
              height="14"
              rx="4"
              fill={color.damsonWash}
              stroke={color.damson}
            />
            <path d={`M${x(errorMm.median)} ${y - 9}V${y + 9}`} stroke={color.damson} strokeWidth="3" />
          </g>
        )
      })}
      <path d={`M150 6V${fit.axes.length * 34 + 2}`} stroke={color.ink} strokeDasharray="2 3" />
      {[-0.3, -0.15, 0, 0.15, 0.3].map((at) => (
        <text
          key={at}
          x={x(at)}
          y={fit.axes.length * 34 + 18}
          fontSize="11"
          textAnchor="middle"
          fontFamily={font.mono}
          fill={color.soft}
        >
          {at === 0 ? '0' : signed(at, (v) => v.toFixed(2))}
        </text>
      ))}
    </svg>
  )
}
