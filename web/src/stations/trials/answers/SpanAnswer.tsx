import {
  SPAN_DEFAULTS,
  spanSentence,
  hedged,
  whatIsMissing,
  type Grade,
  type SpanReading,
} from '@tender/core/trial'
import { useMemo, useState } from 'react'
import { counted, mm, three } from '../../../format/numbers'
import { Sentence, SheetTitle, SoftLine } from '../../../ui/Sheet'
import { Skeleton } from '../../../ui/Skeleton'
import { useFit } from '../../../workers/useFit'
import { AnswerSheet, Missing } from './AnswerSheet'
import { AcceptChoice } from './FanAnswer'
import { LimitChart } from './LimitChart'

export function SpanAnswer({ readings }: { readings: readonly SpanReading[] }) {
  const [accept, setAccept] = useState<Grade>(SPAN_DEFAULTS.accept)
  const fit = useFit(['span', readings, accept], (api) => api.span(readings, { ...SPAN_DEFAULTS, accept }))
  const dots = useMemo(
    () => readings.map(({ spanMm, grade }, i) => ({ x: spanMm, good: grade <= accept, lane: i % 4 })),
    [readings, accept],
  )
  const high = fit?.freeSpanMm.high ?? 0
  const axis = useMemo(
    () => ({
      min: 0,
      max: Math.max(60, Math.min(120, 10 * Math.ceil((1.2 * high) / 10))),
      interval: 20,
      name: 'span in mm',
    }),
    [high],
  )
  if (!fit) return <Skeleton />
  const { median, low, cautious } = fit.freeSpanMm
  const doubts = whatIsMissing({ kind: 'span', readings, accept })
  const says = hedged(spanSentence(fit), doubts)
  return (
    <AnswerSheet aria-label="Free span">
      <SheetTitle>Free span</SheetTitle>
      <Sentence>{says}</Sentence>
      <LimitChart
        xs={fit.curve.spansMm}
        good={fit.curve.good}
        dots={dots}
        low={low}
        high={high}
        cautious={cautious}
        show={(value) => String(Math.floor(value))}
        axis={axis}
        says={says}
      />
      <SoftLine>
        {counted(readings.length, 'bridge')} read. Half of prints hold over {mm(median)}, and the limit lies
        between {three(low)} and {mm(high)} nine times in ten.
      </SoftLine>
      <Missing sentences={doubts} />
      <AcceptChoice value={accept} onChange={setAccept} words={['straight', 'slack', 'loose']} />
    </AnswerSheet>
  )
}
