import { gapSentence, pullSentence, hedged, whatIsMissing, type GapReading } from '@tender/core/trial'
import { useState } from 'react'
import { chance, counted, gapMm, mm } from '../../../format/numbers'
import { Segments } from '../../../ui/fields'
import { Sentence, SheetTitle, SoftLine, Table } from '../../../ui/Sheet'
import { Skeleton } from '../../../ui/Skeleton'
import { useFit } from '../../../workers/useFit'
import { AnswerSheet, Missing } from './AnswerSheet'
import { GapChart } from './GapChart'

export function GapAnswer({
  readings,
  spacingsMm,
  lineWidthMm,
}: {
  readings: readonly GapReading[]
  spacingsMm: readonly number[]
  lineWidthMm: number
}) {
  const [wanted, setWanted] = useState<number | null>(null)
  const fit = useFit(['gap', readings, lineWidthMm, wanted], (api) =>
    api.gap(readings, { lineWidthMm, spacingMm: wanted }),
  )
  const pull = useFit(['pull', readings, lineWidthMm], (api) => api.pull(readings, lineWidthMm))
  if (!fit) return <Skeleton />
  const doubts = whatIsMissing({ kind: 'gap', readings })
  const says = hedged(gapSentence(fit), doubts)
  const edges = [
    ['lets go from', fit.releaseThresholdMm],
    ['looks fine up to', fit.finishThresholdMm],
  ] as const
  return (
    <AnswerSheet aria-label="Release window">
      <SheetTitle>Release window</SheetTitle>
      <Sentence>{says}</Sentence>
      <GapChart fit={fit} says={says} />
      <SoftLine>
        {counted(fit.readings, 'tile')} read. At {gapMm(fit.suggestedGapMm)} a contact comes off clean with a
        chance of {chance(fit.pTender)}.{' '}
        {fit.spacingMm > 0
          ? `The answer is for lines ${mm(fit.spacingMm)} apart.`
          : 'The answer is for a solid interface.'}
      </SoftLine>
      {pull && (
        <SoftLine>
          {pullSentence(pull, fit.suggestedGapMm)} {counted(pull.readings, 'pull')} measured.
        </SoftLine>
      )}
      <Missing sentences={doubts} />
      {spacingsMm.length > 1 && (
        <Segments
          label="Interface lines"
          value={String(fit.spacingMm)}
          onChange={(spacing) => setWanted(Number(spacing))}
          options={spacingsMm.map((spacing) => ({
            value: String(spacing),
            label: spacing === 0 ? 'solid' : `${mm(spacing)} apart`,
          }))}
        />
      )}
      <details>
        <summary>As a table</summary>
        <Table>
          <thead>
            <tr>
              <th>Edge</th>
              <th className="right">median</th>
              <th className="right">nine in ten</th>
            </tr>
          </thead>
          <tbody>
            {edges.map(([name, { median, low, high }]) => (
              <tr key={name}>
                <td>{name}</td>
                <td className="right">{gapMm(median)}</td>
                <td className="right">
                  {low.toFixed(2)} to {high.toFixed(2)}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </details>
    </AnswerSheet>
  )
}
