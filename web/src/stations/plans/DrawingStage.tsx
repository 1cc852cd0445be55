import { STAGES } from '@tender/core/plan'
import type { PlanDocument } from '@tender/core/decide'
import { lazy, Suspense, useState, type ReactNode } from 'react'
import styled, { useTheme } from 'styled-components'
import { LayerDrawing } from '../../drawings/LayerDrawing'
import { SectionView } from '../../drawings/SectionView'
import { Button } from '../../ui/Button'
import { NumberInput, Segments, Swatch, Toggle } from '../../ui/fields'
import { Sentence } from '../../ui/Sheet'
import { Skeleton } from '../../ui/Skeleton'
import { useTold } from '../../workers/told'
import type { PlanOutcome, Working } from '../../workers/usePlanOutcome'
import type { Cut } from './useCut'
import { usePosts } from './usePosts'
import { at, length, space } from '../../theme/measures'

// Drawing in space brings a library of its own, which nobody waits for who looks at sections.
const PlanInSpace = lazy(() => import('./PlanInSpace'))

/** The drawing in the middle of a plan: an upright section or one layer, and what the worker is doing. */
export function DrawingStage({
  result,
  document,
  meshKey,
  cut,
}: {
  result: PlanOutcome
  document: PlanDocument
  meshKey: string
  cut: Cut
}) {
  const { outcome, early, working, progress, error, stopped, cancel, retry } = result
  const { color } = useTheme()
  const posts = usePosts()
  const [postsSet, setPostsSet] = useState(false)
  const upright = { directionDeg: cut.axis === 'x' ? 0 : 90, atMm: cut.axis === 'x' ? cut.atMm : -cut.atMm }
  return (
    <Stage>
      <Tools>
        <Segments
          label="Drawing"
          hideLabel
          value={cut.view}
          onChange={(view) => cut.set({ view })}
          options={[
            { value: 'space', label: 'In space' },
            { value: 'section', label: 'Section' },
            { value: 'layer', label: 'Layer' },
          ]}
        />
        {cut.view === 'section' ? (
          <>
            <Segments
              label="Cut along"
              hideLabel
              value={cut.axis}
              onChange={(along) => cut.set({ along, at: '0' })}
              options={[
                { value: 'x', label: 'across' },
                { value: 'y', label: 'front to back' },
              ]}
            />
            <Where>
              <NumberInput
                label="Cut at"
                unit="mm"
                value={cut.atMm}
                onChange={(at) => Number.isFinite(at) && cut.set({ at: String(at) })}
                min={-1000}
                max={1000}
              />
            </Where>
          </>
        ) : (
          <>
            {cut.view === 'layer' && (
              <Toggle value={cut.lines} onChange={(lines) => cut.set({ lines: lines ? '1' : '0' })}>
                Line by line
              </Toggle>
            )}
            <Toggle value={postsSet} onChange={setPostsSet}>
              Set posts
            </Toggle>
          </>
        )}
        <Legend>
          <Entry swatch={color.part}>part</Entry>
          <Entry swatch={color.stand}>stand</Entry>
          <Entry swatch={color.interface}>interface</Entry>
          {document.decisions.purgeWhere === 'tower' && <Entry swatch={color.purge}>tower</Entry>}
          <span>
            <svg width="14" height="10" aria-hidden>
              <path d="M2 1l1.6 8M6 1l1.6 8M10 1l1.6 8" stroke={color.ink} />
            </svg>{' '}
            leans past {Math.round(document.decisions.freeAngleDeg)}°
          </span>
        </Legend>
      </Tools>
      <Picture>
        {error ? (
          <Message>
            <Sentence role="alert">{error.message}</Sentence>
            <Button onPress={retry}>Try again</Button>
          </Message>
        ) : outcome ? (
          cut.view !== 'section' && outcome.sections ? (
            // Of a plan that was kept there are sections alone; its layers are still being worked out.
            <Skeleton style={{ position: 'absolute', inset: 40 }} />
          ) : cut.view === 'space' ? (
            <Suspense fallback={<Skeleton style={{ position: 'absolute', inset: 40 }} />}>
              <PlanInSpace
                outcome={outcome}
                document={document}
                meshKey={meshKey}
                cut={cut}
                postsSet={postsSet}
              />
            </Suspense>
          ) : cut.view === 'section' ? (
            <SectionView outcome={outcome} {...upright} zMm={cut.zMm} onCut={cut.setZ} />
          ) : (
            <LayerDrawing
              outcome={outcome}
              zMm={cut.zMm}
              lines={cut.lines}
              lineWidthMm={document.decisions.lineWidthMm}
              onPlace={postsSet ? ([x, y]) => posts.setUnder([x, y, cut.zMm]) : undefined}
            />
          )
        ) : stopped ? (
          <Message>
            <Sentence>Stopped. Nothing of the plan was changed.</Sentence>
            <Button onPress={retry}>Work it out again</Button>
          </Message>
        ) : early && cut.view === 'section' ? (
          // What is held shows before its lines are traced.
          <SectionView outcome={early} {...upright} zMm={cut.zMm} onCut={cut.setZ} />
        ) : (
          <Skeleton style={{ position: 'absolute', inset: 40 }} />
        )}
      </Picture>
      {working && <Progress progress={progress} onCancel={cancel} />}
      {!working && stopped && outcome && (
        <Note role="status">
          Stopped; the drawing shows the values before. <Button onPress={retry}>Work it out</Button>
        </Note>
      )}
    </Stage>
  )
}

const STAGE_WORDS: Record<Working['stage'], string> = {
  slice: 'Slicing',
  overhang: 'Looking for what leans too far',
  'part paths': 'Laying the part’s lines',
  stand: 'Raising the stands',
  'support paths': 'Laying the stands’ lines',
  estimate: 'Adding up',
}

/** Told once it has taken a while. */
function Progress({ progress, onCancel }: { progress: PlanOutcome['progress']; onCancel: () => void }) {
  const { stage, share, sinceMs } = useTold(progress)
  if (sinceMs <= 250) return null
  const done = (STAGES.indexOf(stage) + share) / STAGES.length
  const left = done > 0.12 ? Math.ceil((sinceMs * (1 / done - 1)) / 1000) : null
  return (
    <Note role="status">
      {/* In front, so that it stays in place while the words change. */}
      <Button onPress={onCancel}>Stop</Button>
      <progress value={done} aria-label={STAGE_WORDS[stage]} />
      {STAGE_WORDS[stage]}
      {left !== null && left > 1 ? `, about ${left} s left` : ''}
    </Note>
  )
}

const Entry = ({ swatch, children }: { swatch: string; children: ReactNode }) => (
  <span>
    <Swatch style={{ background: swatch, border: 0, width: 10, height: 10, borderRadius: 0 }} /> {children}
  </span>
)

const Stage = styled.div`
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: ${length.xxl};
  @media ${at.roomy} {
    min-height: 0;
  }
`
const Tools = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => `${theme.space.s} ${theme.space.m}`};
  align-items: center;
  padding: ${({ theme }) => `${theme.space.md} ${theme.space.m} 0`};
`
const Where = styled.div`
  width: ${length.s};
  > div {
    grid-template-columns: auto 1fr;
    align-items: center;
    gap: ${({ theme }) => theme.space.s};
  }
`
const Legend = styled.div`
  margin-left: auto;
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => `${theme.space.xs} ${theme.space.m}`};
  font-size: ${({ theme }) => theme.size.small};
  color: ${({ theme }) => theme.color.soft};
`
const Picture = styled.div`
  flex: 1;
  position: relative;
  min-height: 0;
  padding: ${({ theme }) => theme.space.s};
  > svg {
    position: absolute;
    inset: ${space.s};
    width: calc(100% - ${space.l});
    height: calc(100% - ${space.l});
  }
`
const Message = styled.div`
  display: grid;
  justify-items: start;
  gap: ${({ theme }) => theme.space.m};
  padding: ${length.touch};
`
const Note = styled.div`
  position: absolute;
  left: ${space.m};
  bottom: ${space.m};
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.md};
  padding: ${({ theme }) => `${theme.space.sm} ${theme.space.m}`};
  font-size: ${({ theme }) => theme.size.note};
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.s};
  progress {
    width: ${length.xs};
    accent-color: ${({ theme }) => theme.color.damson};
  }
`
