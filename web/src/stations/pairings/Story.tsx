import { takeOffBehind } from '@tender/core/trial'
import type { StoryStep } from '@tender/core/takeOff'
import styled, { useTheme } from 'styled-components'
import { day, gapMm, percent } from '../../format/numbers'
import { EvidenceLink } from '../../ui/EvidenceLink'
import { Num, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { useFit } from '../../workers/useFit'
import type { Pairings } from './usePairings'
import { length } from '../../theme/measures'

/** Gaps that the drawing of a window reaches to, at least. */
const LEAST_MM = 0.4

/** How a pairing came to be known: step by step, its window moving and narrowing. */
export function Story({
  part,
  touching,
  of,
}: {
  part: string
  touching: string
  of: Pick<Pairings, 'trials' | 'families' | 'book'>
}) {
  const { trials, families, book } = of
  const own = trials.filter(
    ({ kind, conditions }) =>
      kind === 'gap' && conditions.partFilament.id === part && conditions.supportFilament.id === touching,
  )
  const story = useFit(['story', part, touching, own, families, book], (api) =>
    api.story(part, touching, own, families, book),
  )
  if (!story || story.length < 2) return null
  const mostMm = Math.max(LEAST_MM, ...story.map(({ windowMm }) => windowMm[1]))
  return (
    <Sheet aria-label="The story of this pairing">
      <SheetTitle>The story of this pairing</SheetTitle>
      <List>
        {story.map((step) => (
          <li key={step.id ?? 'guess'}>
            <div>
              <b>{step.id === null ? step.name : <EvidenceLink id={step.id} name={step.name} />}</b>
              <SoftLine>{whatCame(step)}</SoftLine>
            </div>
            <Window step={step} mostMm={mostMm} />
            <Num>{gapMm(step.suggestedGapMm)}</Num>
          </li>
        ))}
      </List>
      <SoftLine>
        Each bar is the window as it was then, its mark the gap to leave; from 0 to {gapMm(mostMm)}.
      </SoftLine>
    </Sheet>
  )
}

function whatCame({ id, on, readings, weight }: StoryStep): string {
  if (id === null || on === null) return 'before anything was read'
  const kind = takeOffBehind(id) === null ? 'ladder' : 'take-off'
  return `${kind} of ${day(on)}, ${readings} readings, weighs ${percent(weight ?? 0)}`
}

function Window({ step: { windowMm, suggestedGapMm }, mostMm }: { step: StoryStep; mostMm: number }) {
  const { color } = useTheme()
  const x = (mm: number) => 2 + (116 * mm) / mostMm
  return (
    <svg
      viewBox="0 0 120 20"
      role="img"
      aria-label={`Window from ${gapMm(windowMm[0])} to ${gapMm(windowMm[1])}`}
    >
      <path d="M2 15H118" stroke={color.line} strokeWidth="1" />
      <rect
        x={x(windowMm[0])}
        y="6"
        width={Math.max(1, x(windowMm[1]) - x(windowMm[0]))}
        height="7"
        rx="3.5"
        fill={color.interface}
        fillOpacity="0.35"
      />
      <path d={`M${x(suggestedGapMm)} 3V16`} stroke={color.damson} strokeWidth="2.2" />
    </svg>
  )
}

const List = styled.ol`
  list-style: none;
  margin: 0 0 ${({ theme }) => theme.space.s};
  padding: 0;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) ${length.s} ${length.thumb};
    gap: ${({ theme }) => theme.space.m};
    align-items: center;
    padding: ${({ theme }) => `${theme.space.sm} 0`};
    border-top: ${({ theme }) => theme.border.faint};
  }
  li:first-child {
    border: 0;
  }
  b {
    font-weight: 600;
  }
`
