import { STAND_IN_FAULTS, type Part, type PrintRun, type StoredTakeOff } from '@tender/contract'
import type { PlanDocument } from '@tender/core/decide'
import { Link, useParams } from 'react-router'
import styled from 'styled-components'
import { useOne } from '../../api/useShelf'
import { usePrintRun } from '../../api/usePrintRun'
import { HeightRibbon } from '../../drawings/HeightRibbon'
import { LayerDrawing } from '../../drawings/LayerDrawing'
import { day, duration, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { FormProblem } from '../../ui/FormProblem'
import { Page } from '../../ui/Page'
import { Num, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { Loaded, Skeleton } from '../../ui/States'
import { useMesh } from '../../workers/useMesh'
import { usePlanOutcome } from '../../workers/usePlanOutcome'
import { Simulated } from './StandIns'
import { RUN_WORDS, runSentence } from './words'

/** A print while it runs: where its nozzle is, how high, how warm, how much is left; stopped, mended and gone on with. */
export function WatchPage() {
  const { id = '' } = useParams()
  const takeOff = useOne('takeOffs', id)
  return <Loaded query={takeOff}>{(found) => <WithPart takeOff={found} />}</Loaded>
}

function WithPart({ takeOff }: { takeOff: StoredTakeOff }) {
  const part = useOne('parts', takeOff.partId)
  return <Loaded query={part}>{(found) => <Watching takeOff={takeOff} part={found} />}</Loaded>
}

function Watching({ takeOff, part }: { takeOff: StoredTakeOff; part: Part }) {
  const { query, act, fail } = usePrintRun(takeOff.id)
  const run = query.data
  const document = takeOff.document as PlanDocument
  const mesh = useMesh(part.meshSha256)
  const { outcome } = usePlanOutcome(mesh.data, document)
  const at = run?.progress.atMm
  const nozzle = at ? ([at[0] - run.zeroMm[0], at[1] - run.zeroMm[1]] as const) : null
  const zMm = run?.progress.zMm ?? 0
  return (
    <Page
      over={
        <>
          <Link to={`/take-offs/${takeOff.id}`}>{takeOff.name}</Link>, {day(takeOff.printedOn)}
        </>
      }
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
      {run === null && (
        <p>
          This print was not sent from here. Open its plan and choose “Print it from here” under “Take to
          printer”.
        </p>
      )}
      {run && (
        <>
          <State role="status" data-state={run.state}>
            {run.printer.standIn && <Simulated />}
            {runSentence(run)}
            {run.state === 'done' && (
              <>
                {' '}
                <Link to={`/take-offs/${takeOff.id}`}>Take it off</Link>.
              </>
            )}
          </State>
          <progress value={run.progress.doneBytes} max={Math.max(1, run.bytes)} aria-label="Lines done" />
          <FormProblem error={act.error ?? fail.error} />
        </>
      )}
      <Columns>
        <Drawing>
          {outcome ? (
            <LayerDrawing
              outcome={outcome}
              zMm={Math.max(0.01, zMm - 1e-3)}
              lines
              lineWidthMm={document.decisions.lineWidthMm}
              nozzleMm={nozzle}
            />
          ) : (
            <Skeleton style={{ height: 360 }} />
          )}
        </Drawing>
        {run && <Told run={run} onFail={(fault) => fail.mutate(fault)} />}
      </Columns>
      {outcome && (
        <Sheet aria-label="Height">
          <HeightRibbon
            summary={outcome.summary}
            layerHeightMm={document.decisions.layerHeightMm}
            zMm={zMm}
            layer={run?.progress.layer ?? 0}
          />
        </Sheet>
      )}
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
          <Num>{progress.zMm !== null ? `${progress.zMm.toFixed(2)} mm` : 'not yet'}</Num>
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
        <>
          <SoftLine>Rehearse what goes wrong: the next move</SoftLine>
          <Faults>
            {STAND_IN_FAULTS.map((fault) => (
              <Button key={fault} onPress={() => onFail(fault)}>
                {fault}
              </Button>
            ))}
          </Faults>
        </>
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
  grid-template-columns: minmax(0, 1fr) minmax(240px, 300px);
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
  @media (max-width: 800px) {
    grid-template-columns: 1fr;
  }
`
const Drawing = styled(Sheet)`
  height: 420px;
`
const Faults = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.sm};
`
