import type { PlanDocument } from '@tender/core/decide'
import type { PlanSummary } from '@tender/core/plan'
import {
  differencesFrom,
  differencesFromPlanned,
  gramsOf,
  type ReadBack as Found,
  type ReadGap,
} from '@tender/core/readBack'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { FileTrigger, isFileDropItem, type DropItem } from 'react-aria-components'
import styled from 'styled-components'
import { counted, duration, gapMm, grams, inUnit } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { FileZone } from '../../ui/FileZone'
import { FormProblem } from '../../ui/FormProblem'
import { Num, Sentence, SoftLine, Table } from '../../ui/Sheet'
import { unwrap } from '../../workers/answer'
import { filing, planning, proxy } from '../../workers/geometry'

/**
 * Holds a G-code file, ours or another program's, against a plan: what it really does, and where that
 * differs.
 */
export function ReadBack({
  document,
  summary,
  resultId,
  onClose,
}: {
  document: PlanDocument
  summary: PlanSummary
  /** The plan's own result, while it is known. */
  resultId: string | null
  onClose: () => void
}) {
  const [share, setShare] = useState(0)
  const read = useMutation({
    mutationFn: async (file: File) => {
      setShare(0)
      const found = await unwrap(filing().readGcode(Date.now(), file, document, proxy(setShare)))
      const laid = resultId === null ? null : await unwrap(planning().laidGaps(resultId, document))
      return { name: file.name, found, laid }
    },
  })
  const dropped = async (items: readonly DropItem[]) => {
    const file = await items.find(isFileDropItem)?.getFile()
    if (file) read.mutate(file)
  }
  return (
    <Dialog title="Read a file back" open onClose={onClose} wide>
      <FileZone aria-label="Drop a G-code file" onDrop={(event) => void dropped(event.items)}>
        {read.isPending ? (
          <>
            <progress value={share} aria-label="Reading the file" /> Reading
            <Button onPress={() => void filing().cancel()}>Stop</Button>
          </>
        ) : (
          <>
            <Sentence>Drop a G-code file here, or</Sentence>
            <FileTrigger
              acceptedFileTypes={['.gcode', '.gco', '.g', 'text/x.gcode']}
              onSelect={(files) => files?.[0] && read.mutate(files[0])}
            >
              <Button main>Pick a file</Button>
            </FileTrigger>
          </>
        )}
      </FileZone>
      <FormProblem error={read.error} />
      {read.data && <What {...read.data} document={document} summary={summary} />}
    </Dialog>
  )
}

function What({
  name,
  found,
  laid,
  document,
  summary,
}: {
  name: string
  found: Found
  laid: readonly ReadGap[] | null
  document: PlanDocument
  summary: PlanSummary
}) {
  const differences = [...differencesFrom(found, document, laid), ...differencesFromPlanned(found, summary)]
  const g = gramsOf(found, document)
  const under = new Map<number, number>()
  for (const { gapMm: gap, areaMm2 } of found.gaps) under.set(gap, (under.get(gap) ?? 0) + areaMm2)
  const widest = [...under].toSorted((a, b) => b[1] - a[1]).slice(0, 4)
  return (
    <>
      <p role="status">
        {differences.length === 0
          ? `“${name}” is this plan: plastic, swaps, heights and gaps are the same.`
          : `“${name}” differs from this plan:`}
      </p>
      {differences.length > 0 && (
        <List>
          {differences.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </List>
      )}
      <Table>
        <tbody>
          <tr>
            <th scope="row">Time</th>
            <td>
              <Num>{duration(found.timeS)}</Num>, planned <Num>{duration(summary.timeS)}</Num>
            </td>
          </tr>
          {found.tools.map(({ tool, mm3 }, i) => (
            <tr key={tool}>
              <th scope="row">Tool {tool}</th>
              <td>
                <Num>{(mm3 / 1000).toFixed(2)} cm³</Num>
                {typeof g[i] === 'number' && (
                  <>
                    , <Num>{grams(g[i])}</Num>
                  </>
                )}
              </td>
            </tr>
          ))}
          <tr>
            <th scope="row">Swaps</th>
            <td>
              <Num>{found.swaps}</Num>, planned <Num>{summary.swaps}</Num>
            </td>
          </tr>
          {widest.map(([gap, areaMm2]) => (
            <tr key={gap}>
              <th scope="row">Gap</th>
              <td>
                <Num>{gapMm(gap)}</Num> under <Num>{inUnit(Math.round(areaMm2), 'mm²')}</Num>
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {found.rolesMm3 === null && (
        <SoftLine>No comment in it says what is part and what is support, so gaps are not known.</SoftLine>
      )}
      {Object.keys(found.unknown).length > 0 && (
        <SoftLine>
          Not understood, and left aside:{' '}
          {Object.entries(found.unknown)
            .slice(0, 6)
            .map(([command, times]) => `${command} (${counted(times, 'time')})`)
            .join(', ')}
          .
        </SoftLine>
      )}
    </>
  )
}

const List = styled.ul`
  margin: 0;
  padding-left: ${({ theme }) => theme.space.l};
  display: grid;
  gap: ${({ theme }) => theme.space.xs};
`
