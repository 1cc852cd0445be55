import {
  FAN_DEFAULTS,
  fanSentence,
  hedged,
  whatIsMissing,
  type FanReading,
  type Grade,
} from '@tender/core/trial'
import { useMemo, useState } from 'react'
import { counted, degrees } from '../../../format/numbers'
import { Segments } from '../../../ui/fields'
import { Sentence, SheetTitle, SoftLine, Table } from '../../../ui/Sheet'
import { Skeleton } from '../../../ui/Skeleton'
import { useFit } from '../../../workers/useFit'
import { AnswerSheet, Missing } from './AnswerSheet'
import { CompassPicture } from './CompassPicture'
import { LimitChart } from './LimitChart'

const AXIS = { min: 20, max: 85, interval: 10, name: '° from vertical' } as const

export function FanAnswer({ readings }: { readings: readonly FanReading[] }) {
  const [accept, setAccept] = useState<Grade>(FAN_DEFAULTS.accept)
  const fit = useFit(['fan', readings, accept], (api) => api.fan(readings, { ...FAN_DEFAULTS, accept }))
  const dots = useMemo(() => {
    const lanes = [...new Set(readings.map((reading) => reading.direction))]
    return readings.map(({ angleDeg, grade, direction }) => ({
      x: angleDeg,
      good: grade <= accept,
      lane: lanes.indexOf(direction),
    }))
  }, [readings, accept])
  if (!fit) return <Skeleton />
  const { medianDeg, lowDeg, highDeg, cautiousDeg } = fit.freeAngle
  const doubts = whatIsMissing({ kind: 'fan', readings, accept })
  const says = hedged(fanSentence(fit), doubts)
  return (
    <AnswerSheet aria-label="Free angle">
      <SheetTitle>Free angle</SheetTitle>
      <Sentence>{says}</Sentence>
      <LimitChart
        xs={fit.curve.anglesDeg}
        good={fit.curve.good}
        dots={dots}
        low={lowDeg}
        high={highDeg}
        cautious={cautiousDeg}
        show={degrees}
        axis={AXIS}
        says={says}
      />
      <SoftLine>
        {counted(readings.length, 'arm')} read. Over all sides half of prints hold to {degrees(medianDeg)},
        and the limit lies between {degrees(lowDeg)} and {degrees(highDeg)} nine times in ten. From the bed
        that is {degrees(90 - highDeg)} to {degrees(90 - lowDeg)}.
      </SoftLine>
      <Missing sentences={doubts} />
      <CompassPicture fit={fit} />
      <AcceptChoice value={accept} onChange={setAccept} words={['clean', 'marked', 'rough']} />
      {fit.directions.length > 1 && (
        <details>
          <summary>As a table</summary>
          <Table>
            <thead>
              <tr>
                <th>Facing</th>
                <th className="right">cautious</th>
                <th className="right">median</th>
                <th className="right">nine in ten</th>
                <th className="right">arms</th>
              </tr>
            </thead>
            <tbody>
              {fit.directions.map(({ direction, freeAngle, readings: count }) => (
                <tr key={direction}>
                  <td>{direction}</td>
                  <td className="right">{degrees(freeAngle.cautiousDeg)}</td>
                  <td className="right">{degrees(freeAngle.medianDeg)}</td>
                  <td className="right">
                    {freeAngle.lowDeg.toFixed(0)}–{degrees(freeAngle.highDeg)}
                  </td>
                  <td className="right">{count}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </details>
      )}
    </AnswerSheet>
  )
}

/** Which grade still counts as good is the maker's own choice. */
export function AcceptChoice({
  value,
  onChange,
  words,
}: {
  value: Grade
  onChange: (grade: Grade) => void
  words: readonly [string, string, string]
}) {
  return (
    <Segments
      label="Worst grade that still counts as good"
      value={String(value)}
      onChange={(chosen) => onChange(Number(chosen) as Grade)}
      options={words.map((label, i) => ({ value: String(i + 1), label }))}
    />
  )
}
