import {
  purgeSentence,
  hedged,
  whatIsMissing,
  type PurgePurpose,
  type PurgeReading,
} from '@tender/core/trial'
import { counted, three } from '../../../format/numbers'
import { Sentence, SheetTitle, SoftLine, Table } from '../../../ui/Sheet'
import type { SwapNames } from '../trialKinds'
import { Skeleton } from '../../../ui/Skeleton'
import { useFit } from '../../../workers/useFit'
import { AnswerSheet, Missing } from './AnswerSheet'
import { PurgeChart } from './PurgeChart'

const PURPOSES: readonly (readonly [PurgePurpose, string])[] = [
  ['light', 'a light face'],
  ['strength', 'a strong part'],
  ['throwAway', 'a stand, thrown away'],
]

export function PurgeAnswer({ readings, names }: { readings: readonly PurgeReading[]; names: SwapNames }) {
  const fitted = useFit(['purge', readings], (api) => api.purge(readings))
  if (!fitted) return <Skeleton />
  const { fit, curves } = fitted
  const doubts = whatIsMissing({ kind: 'purge', readings })
  const says = hedged(purgeSentence(fit, names), doubts)
  return (
    <AnswerSheet aria-label="Purge">
      <SheetTitle>Purge</SheetTitle>
      <Sentence>{says}</Sentence>
      <PurgeChart fit={fit} curves={curves} names={names} says={says} />
      <SoftLine>
        {counted(readings.length, 'strip')} read. The volumes named are enough nine times in ten; all five
        grades count.
      </SoftLine>
      <Missing sentences={doubts} />
      <details>
        <summary>As a table</summary>
        <Table>
          <thead>
            <tr>
              <th>Before</th>
              <th className="right">median</th>
              <th className="right">nine in ten</th>
            </tr>
          </thead>
          {fit.swaps.map(({ swap, volumeMm3 }) => (
            <tbody key={swap}>
              <tr>
                <th colSpan={3}>{swap === 'AB' ? `${names.a} to ${names.b}` : `${names.b} to ${names.a}`}</th>
              </tr>
              {PURPOSES.map(([purpose, word]) => (
                <tr key={purpose}>
                  <td>{word}</td>
                  <td className="right">{three(volumeMm3[purpose].median)} mm³</td>
                  <td className="right">
                    {three(volumeMm3[purpose].low)} to {three(volumeMm3[purpose].high)}
                  </td>
                </tr>
              ))}
            </tbody>
          ))}
        </Table>
      </details>
    </AnswerSheet>
  )
}
