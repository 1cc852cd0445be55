import { STAND_IN_FAULTS, type PrintRun } from '@tender/contract'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import styled from 'styled-components'
import { usePrintRun, type RunOf } from '../../api/usePrintRun'
import { duration, THIN, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { FormProblem } from '../../ui/FormProblem'
import { Page } from '../../ui/Page'
import { Num, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { Simulated } from './StandIns'
import { RUN_WORDS, runSentence } from './words'
import { at, length } from '../../theme/measures'

/** Where a nozzle is in the coordinates of what is drawn, and how high. */
export type Nozzle = {
  readonly atMm: readonly [number, number] | null
  readonly zMm: number
  readonly layer: number
}

/**
 * A print while it runs: how far, how warm, how much is left; stopped, mended and gone on with. What it is
 * drawn by is told by whoever knows.
 */
export function Watching({
  of,
  over,
  from,
  next,
  drawing,
  below,
}: {
  of: RunOf
  over: ReactNode
  /** Where such a print is sent from. */
  from: string
  /** What follows once it is done. */
  next: { readonly to: string; readonly word: string }
  drawing: (nozzle: Nozzle) => ReactNode
  below?: (nozzle: Nozzle) => ReactNode
}) {
  const { query, act, fail } = usePrintRun(of)
  const run = query.data
  const at = run?.progress.atMm
  const nozzle: Nozzle = {
    atMm: at ? [at[0] - run.zeroMm[0], at[1] - run.zeroMm[1]] : null,
    zMm: run?.progress.zMm ?? 0,
    layer: run?.progress.layer ?? 0,
  }
  return (
    <Page
      over={over}
      title="On the printer"
      actions={
        run && (
          <>
            {run.state === 'printing' && <Button onPress={() => act.mutate('pause')}>Pause</Button>}
            {(run.state === 'paused' || run.state === 'fault') && (
              <Button main onPress={() => act.mutate('resume')}>
                Go on
              </Button>
            )}
            {run.state !== 'done' && run.state !== 'given up' && (
              <Button quiet onPress={() => act.mutate('give-up')}>
                Give it up
              </Button>
            )}
          </>
        )
      }
    >
      {run === null && <p>This was not sent from here. {from}</p>}
      {run && (
        <>
          <State role="status" data-state={run.state}>
            {run.printer.standIn && <Simulated />}
            {runSentence(run)}
            {run.state === 'done' && (
              <>
                {' '}
                <Link to={next.to}>{next.word}</Link>.
              </>
            )}
          </State>
          <progress value={run.progress.doneBytes} max={Math.max(1, run.bytes)} aria-label="Lines done" />
          <FormProblem error={act.error ?? fail.error} />
        </>
      )}
      <Columns>
        <Drawing>{drawing(nozzle)}</Drawing>
        {run && <Told run={run} onFail={(fault) => fail.mutate(fault)} />}
      </Columns>
      {below?.(nozzle)}
    </Page>
  )
}

/** What a printer tells, and what is known from the lines it has done. */
function Told({ run, onFail }: { run: PrintRun; onFail: (fault: (typeof STAND_IN_FAULTS)[number]) => void }) {
  const { progress, temperatures } = run
  return (
    <Sheet aria-label="What the printer says">
      <SheetTitle>{RUN_WORDS[run.state]}</SheetTitle>
      <dl>
        <dt>height</dt>
        <dd>
          <Num>{progress.zMm !== null ? `${progress.zMm.toFixed(2)}${THIN}mm` : 'not yet'}</Num>
        </dd>
        <dt>laying</dt>
        <dd>{progress.role ?? 'nothing yet'}</dd>
        <dt>nozzle at</dt>
        <dd>
          <Num>{progress.atMm ? progress.atMm.map((mm) => mm.toFixed(1)).join(', ') : 'unknown'}</Num>
        </dd>
        {Object.entries(progress.filamentMm).map(([tool, mm]) => (
          <Pair key={tool} name={run.filaments[Number(tool)] ?? `tool ${tool}`}>
            <Num>{three(mm / 1000)} m</Num>
          </Pair>
        ))}
        <dt>warmth</dt>
        <dd>
          <Num>{temperatures ?? 'not told yet'}</Num>
        </dd>
        <dt>whole print</dt>
        <dd>
          <Num>{duration(run.seconds)}</Num>
        </dd>
      </dl>
      {run.printer.standIn && run.state === 'printing' && (
        <Rehearsal>
          <SoftLine>Rehearse what goes wrong: the next move</SoftLine>
          <Faults>
            {STAND_IN_FAULTS.map((fault) => (
              <Button key={fault} onPress={() => onFail(fault)}>
                {fault}
              </Button>
            ))}
          </Faults>
        </Rehearsal>
      )}
    </Sheet>
  )
}

const Pair = ({ name, children }: { name: string; children: React.ReactNode }) => (
  <>
    <dt>{name}</dt>
    <dd>{children}</dd>
  </>
)

const State = styled.p`
  margin: 0;
  &[data-state='fault'],
  &[data-state='lost'] {
    color: ${({ theme }) => theme.color.wine};
  }
  & + progress {
    width: 100%;
    accent-color: ${({ theme }) => theme.color.damson};
  }
`
const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(${length.l}, ${length.l});
  gap: ${({ theme }) => theme.space.m};
  align-items: start;
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: ${({ theme }) => `${theme.space.xs} ${theme.space.m}`};
    margin: 0;
  }
  dt {
    color: ${({ theme }) => theme.color.soft};
  }
  dd {
    margin: 0;
    overflow-wrap: anywhere;
  }
  @media ${at.narrow} {
    grid-template-columns: 1fr;
  }
`
const Drawing = styled(Sheet)`
  height: ${length.xxl};
`
const Rehearsal = styled.div`
  display: grid;
  gap: ${({ theme }) => theme.space.sm};
  margin-top: ${({ theme }) => theme.space.m};
`
const Faults = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.sm};
`
