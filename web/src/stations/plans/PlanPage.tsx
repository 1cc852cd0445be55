import {
  asOfToday,
  figuresOf,
  loadProblems,
  planFilament,
  type LastKept,
  type Part,
  type Plan,
  type Printer,
  type StoredFilament,
} from '@tender/contract'
import {
  changePlan,
  followEvidence,
  newerEvidence,
  type Learnt,
  type PlanDocument,
} from '@tender/core/decide'
import type { KeptOutcome } from '@tender/core/plan'
import { correctedGrams } from '@tender/core/takeOff'
import type { UseQueryResult } from '@tanstack/react-query'
import { useEffect, useMemo, useState } from 'react'
import { Link, useParams } from 'react-router'
import styled from 'styled-components'
import { useLastKept } from '../../api/useLastKept'
import { useList } from '../../api/useShelf'
import { HeightRibbon } from '../../drawings/HeightRibbon'
import { LoadedPage } from '../../frame/LoadedPage'
import { One } from '../../frame/One'
import { Banner } from '../../ui/Banner'
import { Button } from '../../ui/Button'
import { Buttons } from '../../ui/Dialog'
import { Page, WaitingPage } from '../../ui/Page'
import { Sheet } from '../../ui/Sheet'
import { Skeleton } from '../../ui/Skeleton'
import { Failure } from '../../ui/States'
import { planning } from '../../workers/geometry'
import { useMesh } from '../../workers/useMesh'
import { useKnownTrials, type KnownTrials } from '../../workers/useKnownTrials'
import { useLearnt } from '../../workers/useLearnt'
import { useKeptOutcome, usePlanOutcome } from '../../workers/usePlanOutcome'
import { Checks } from './Checks'
import { ComingOff } from './ComingOff'
import { ContactSheet } from './ContactSheet'
import { DrawingStage } from './DrawingStage'
import { Letter } from './Letter'
import { changesInWords } from './changesInWords'
import { PlanContext, ReleaseContext, type PlanSetting } from './PlanContext'
import { TakeToPrinter } from './TakeToPrinter'
import { Totals } from './Totals'
import { useCut } from './useCut'
import { useRelease } from './useRelease'
import { useCopyPlan } from './useNewPlan'
import { usePastKeys } from './usePast'
import { usePlanDraft } from './usePlanDraft'
import { useWishes } from './useWishes'
import { Variants } from './Variants'
import { at, length, space } from '../../theme/measures'

/** One complete set of decisions for a part: the letter, the drawings, the price. */
export function PlanPage() {
  const { id = '' } = useParams()
  // All of it is asked for at once, also what is only needed once the plan is there.
  const printers = useList('printers')
  const filaments = useList('filaments')
  const takeOffs = useList('takeOffs')
  const evidence = useKnownTrials()
  const last = useLastKept(id)
  const learnt = useLearnt(evidence, last)
  const bench = { printers, filaments, takeOffs, evidence, learnt, last }
  return (
    <One name="plans" id={id}>
      {(plan) => (
        <One key={plan.id} name="parts" id={plan.partId}>
          {(part) => <WithMesh key={plan.id} plan={plan} part={part} {...bench} />}
        </One>
      )}
    </One>
  )
}

/** Everything a plan refers to has to be there before it can be worked with; its mesh comes meanwhile. */
function WithMesh({
  plan,
  part,
  printers,
  filaments,
  takeOffs,
  evidence,
  learnt,
  last,
}: {
  plan: Plan
  part: Part
  printers: UseQueryResult<{ items: Printer[] }>
  filaments: UseQueryResult<{ items: StoredFilament[] }>
  takeOffs: UseQueryResult<unknown>
  evidence: KnownTrials | undefined
  learnt: Learnt | undefined
  last: LastKept | undefined
}) {
  const ready = printers.data && filaments.data && learnt
  const kept = useKeptOutcome(
    plan.id,
    part.meshSha256,
    ready && asOfToday(plan.document as PlanDocument, printers.data!.items, filaments.data!.items, learnt),
    last,
  )
  const isDrawn = useDrawn(Boolean(kept))
  const cameAlong = last?.some(({ about }) => about === plan.id)
  const mesh = useMesh(part.meshSha256, kept === null || isDrawn || cameAlong === false)
  // While that is on its way the thread that plans has nothing else to do.
  const waits = mesh.data !== undefined && learnt === undefined
  useEffect(() => {
    if (waits) void planning().getReady()
  }, [waits])
  return (
    <LoadedPage query={printers} called="plan">
      {(p) => (
        <LoadedPage query={filaments} called="plan">
          {(f) =>
            learnt && kept !== undefined ? (
              <Planning
                plan={plan}
                part={part}
                mesh={mesh}
                printers={p.items}
                filaments={f.items}
                evidence={evidence}
                learnt={learnt}
                kept={kept}
              />
            ) : (
              // What take-offs teach is waited for until it is clear that they do not come.
              <LoadedPage query={takeOffs} called="plan">
                {() => <WaitingPage />}
              </LoadedPage>
            )
          }
        </LoadedPage>
      )}
    </LoadedPage>
  )
}

/** What was kept is drawn before the processors are given the work of making it anew. */
const DRAWN_WITHIN_MS = 300

/** Whether what is there had time to be drawn. */
function useDrawn(isThere: boolean): boolean {
  const [isDrawn, setDrawn] = useState(false)
  useEffect(() => {
    if (!isThere) return
    const timer = setTimeout(() => setDrawn(true), DRAWN_WITHIN_MS)
    return () => clearTimeout(timer)
  }, [isThere])
  return isDrawn
}

type Props = {
  plan: Plan
  part: Part
  mesh: UseQueryResult<string>
  printers: Printer[]
  filaments: StoredFilament[]
  /** Undefined while readings are fitted: what is shown does not wait for that. */
  evidence: KnownTrials | undefined
  learnt: Learnt
  kept: KeptOutcome | null
}

function Planning({ plan, part, mesh, printers, filaments, evidence: facts, learnt, kept }: Props) {
  const [figures, setFigures] = useState(plan.figures)
  const [settled, setSettled] = useState(false)
  const draft = usePlanDraft(plan, figures, settled)
  const { change, undo, redo } = draft
  usePastKeys(draft)
  const standing = printers.find(({ id }) => id === draft.document.printer.id)
  const document = useMemo(
    () => asOfToday(draft.document, printers, filaments, learnt),
    [draft.document, printers, filaments, learnt],
  )
  const result = usePlanOutcome(mesh.data, document, { plan: plan.id, mesh: part.meshSha256, kept })
  const summary = result.outcome?.summary ?? null
  /** Whether numbers are still to come. */
  const awaited = !result.error && !result.stopped && !mesh.isError

  // The short figures follow the result; they are saved with the plan once the work has settled.
  const fresh = useMemo(() => (summary ? figuresOf(summary) : null), [summary])
  const nowSettled = !result.working && (fresh !== null || result.error !== null || result.stopped)
  if (nowSettled !== settled) setSettled(nowSettled)
  if (nowSettled && fresh !== null && fresh !== figures) setFigures(fresh)

  const apply = useWishes(draft.document, change, facts)
  const newer = useMemo(
    () => (facts ? newerEvidence(document, facts.trials, facts.book) : {}),
    [document, facts],
  )
  const upToDate = result.working || !facts ? null : summary
  const resultId = result.outcome?.id ?? null
  // The letter has a hundred values with a card behind each: it is drawn again when one of these changes.
  const setting = useMemo<PlanSetting>(
    () => ({
      document,
      summary: upToDate,
      holding: 0,
      resultId,
      meshKey: mesh.data,
      printers,
      filaments,
      book: facts?.book,
      newer,
      evidenceOf: ({ evidence }) => evidence,
      after: (wish) => changePlan(document, wish, facts),
      change: apply,
      decide: (decisions) => apply({ decisions }),
      broughtAlong: (filament) => planFilament(filament, standing),
      takeNewer: () => facts && change(followEvidence(draft.document, facts.trials, facts.book)),
      past: { undo, redo },
    }),
    [
      document,
      upToDate,
      resultId,
      mesh.data,
      printers,
      filaments,
      newer,
      facts,
      apply,
      standing,
      change,
      draft.document,
      undo,
      redo,
    ],
  )
  const cut = useCut(summary, document.decisions.layerHeightMm, document.decisions.firstLayerHeightMm)
  const release = useRelease(result.working ? undefined : result.outcome?.id, document)
  const check = release && 'check' in release ? release.check : null
  const outdated = Object.keys(setting.newer).length > 0

  return (
    <PlanContext value={setting}>
      <ReleaseContext value={check}>
        <Page
          fill
          over={<Link to={`/parts/${part.id}`}>{part.name}</Link>}
          title={draft.document.name}
          aside={
            <Variants
              planId={plan.id}
              partId={plan.partId}
              draft={draft.document}
              figures={figures}
              onRename={(name) => apply({ name })}
            />
          }
          actions={
            <>
              {figures ? (
                <Totals
                  figures={figures}
                  swapLayers={summary?.swapLayers}
                  weighed={summary && correctedGrams(summary.estimate, learnt)}
                />
              ) : (
                awaited && <Skeleton style={{ width: 380, height: 40 }} />
              )}
              <TakeToPrinter
                planId={plan.id}
                partName={part.name}
                meshKey={part.meshSha256}
                document={document}
                summary={upToDate}
                printed={
                  result.working || !result.outcome
                    ? null
                    : { planId: plan.id, part, resultId: result.outcome.id }
                }
              />
            </>
          }
        >
          {draft.conflict && (
            <Conflict partId={part.id} draft={draft.document} takeTheirs={draft.takeTheirs} />
          )}
          {draft.problem && <Banner role="alert">Not saved yet. {draft.problem}</Banner>}
          {!standing && (
            <Banner role="status">
              {document.printer.name} is not on the bench: what it can do is a guess.{' '}
              <Link to="/bench">Set the bench</Link>, then choose your own in the letter.
            </Banner>
          )}
          {outdated && (
            <Banner role="status">
              More has been read since this plan was made. Its numbers still stand on the older readings.{' '}
              {changesInWords(document, setting.newer)}.{' '}
              <Button onPress={setting.takeNewer}>Take the new readings</Button>
            </Banner>
          )}
          <Columns>
            <Letter chosen={summary?.contacts[cut.contact] ?? null} />
            <Sheet as="div" style={{ padding: 0, overflow: 'hidden', position: 'relative' }}>
              {mesh.isError ? (
                <Failure error={mesh.error} onRetry={() => void mesh.refetch()} />
              ) : (
                <DrawingStage result={result} document={document} meshKey={part.meshSha256} cut={cut} />
              )}
            </Sheet>
            <Side>
              {summary && summary.contacts.length > 0 && (
                <ContactSheet
                  contacts={summary.contacts}
                  recuts={summary.recuts}
                  selected={cut.contact}
                  onSelect={cut.selectContact}
                  document={document}
                />
              )}
              {summary ? (
                <Checks
                  summary={summary}
                  partId={part.id}
                  load={loadProblems(document, summary.estimate.filaments, printers, filaments)}
                  onIsland={cut.selectIsland}
                />
              ) : (
                awaited && <Skeleton style={{ height: 180 }} />
              )}
              {release && <ComingOff release={release} learnt={learnt} onPlace={cut.goTo} partId={part.id} />}
            </Side>
          </Columns>
          {(summary || awaited) && (
            <Sheet aria-label="Height ribbon" style={{ padding: `${space.md} ${space.m}` }}>
              {summary ? (
                <HeightRibbon
                  summary={summary}
                  layerHeightMm={document.decisions.layerHeightMm}
                  zMm={cut.zMm}
                  layer={cut.layer}
                  onCut={cut.setZ}
                  onStep={cut.step}
                />
              ) : (
                <Skeleton style={{ height: 112 }} />
              )}
            </Sheet>
          )}
        </Page>
      </ReleaseContext>
    </PlanContext>
  )
}

/** Somebody else changed the plan meanwhile: the maker chooses, nothing is overwritten. */
function Conflict({
  partId,
  draft,
  takeTheirs,
}: {
  partId: string
  draft: PlanDocument
  takeTheirs: () => void
}) {
  const keepMine = useCopyPlan(partId)
  return (
    <Banner role="alert">
      This plan was changed somewhere else, and your change is not saved over it.{' '}
      <Buttons>
        <Button main onPress={() => keepMine.mutate({ document: draft, figures: null })}>
          Keep mine as a variant
        </Button>
        <Button onPress={takeTheirs}>Take the other one</Button>
      </Buttons>
      {keepMine.error?.message}
    </Banner>
  )
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: ${length.xl} minmax(0, 1fr) ${length.l};
  gap: ${({ theme }) => theme.space.m};
  align-items: stretch;
  @media ${at.roomy} {
    flex: 1 1 0;
    min-height: ${length.xl};
    > * {
      min-height: 0;
      overflow-y: auto;
    }
  }
  @media ${at.wide} {
    grid-template-columns: ${length.l} minmax(0, 1fr);
    > :last-child {
      grid-column: 1 / -1;
      grid-template-columns: repeat(auto-fit, minmax(${length.l}, 1fr));
    }
  }
  @media ${at.narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
`
const Side = styled.div`
  display: grid;
  gap: ${({ theme }) => theme.space.m};
  align-content: start;
  min-width: 0;
  /* Words for screen readers stay in what scrolls. */
  position: relative;
`
