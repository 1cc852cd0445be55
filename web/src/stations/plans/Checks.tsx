import type { PlanSummary } from '@tender/core/plan'
import type { ReactNode } from 'react'
import styled, { useTheme } from 'styled-components'
import { counted, grams } from '../../format/numbers'
import { Sheet, SheetTitle, Unseen } from '../../ui/Sheet'
import { WarningRemedies } from './Remedies'
import { space } from '../../theme/measures'

type Mark = 'good' | 'note' | 'warning' | 'error'
const WORDS: Record<Mark, string> = {
  good: 'In order:',
  note: 'Note:',
  warning: 'Mind:',
  error: 'Must be mended:',
}

/** What to know before it goes to the printer: worst first, each with a shape and a word. */
export function Checks({
  summary,
  partId,
  load,
  onIsland,
}: {
  summary: PlanSummary
  partId: string
  /** What does not agree with what sits on the printer. */ load: readonly string[]
  onIsland: (index: number) => void
}) {
  const { islands, warnings, estimate } = summary
  const held = islands.filter((island) => island.held).length
  const rank = { error: 0, warning: 1, note: 2 }
  return (
    <Sheet aria-label="Before it goes to the printer">
      <SheetTitle>Before it goes to the printer</SheetTitle>
      <List>
        {warnings
          .toSorted((a, b) => rank[a.severity] - rank[b.severity])
          .map((warning) => (
            <Line key={warning.code + warning.message} mark={warning.severity}>
              {warning.message}
              <WarningRemedies warning={warning} partId={partId} />
            </Line>
          ))}
        {load.map((problem) => (
          <Line key={problem} mark="warning">
            {problem}
          </Line>
        ))}
        {islands.length > 0 && (
          <Line mark={held === islands.length ? 'good' : 'error'}>
            <b>{islandsInWords(islands.length, held)}</b>
            <Islands>
              {islands.map((island, i) => (
                <button
                  key={i}
                  type="button"
                  onClick={() => onIsland(i)}
                  data-loose={!island.held || undefined}
                >
                  <Unseen>{island.held ? 'held' : 'in the air'} </Unseen>
                  {island.zMm.toFixed(2)}
                </button>
              ))}
            </Islands>
          </Line>
        )}
        {islands.length === 0 && summary.contacts.length === 0 && (
          <Line mark="good">
            <b>Nothing needs holding</b>
          </Line>
        )}
        {estimate.filaments
          .filter((use) => use.gramsLeft !== null && use.g <= use.gramsLeft)
          .map((use) => (
            <Line key={use.name} mark={use.g > 0.85 * use.gramsLeft! ? 'note' : 'good'}>
              {use.name}: {grams(use.gramsLeft!)} left, {grams(use.g)} needed
            </Line>
          ))}
        {estimate.filaments.every((use) => use.gramsLeft === null) && (
          <Line mark="note">
            {counted(estimate.filaments.length, 'filament')} without a weighed spool; nobody knows whether
            there is enough.
          </Line>
        )}
      </List>
    </Sheet>
  )
}

function Line({ mark, children }: { mark: Mark; children: ReactNode }) {
  const { color } = useTheme()
  return (
    <li>
      <svg width="16" height="16" aria-hidden>
        {mark === 'good' && <circle cx="8" cy="8" r="6" fill={color.pine} />}
        {mark === 'note' && <rect x="2" y="2" width="12" height="12" fill={color.butter} />}
        {mark === 'warning' && <path d="M8 1l7 13H1z" fill={color.clay} />}
        {mark === 'error' && <path d="M5 1h6l4 4v6l-4 4H5l-4 -4V5z" fill={color.wine} />}
      </svg>
      <div>
        <Unseen>{WORDS[mark]} </Unseen>
        {children}
      </div>
    </li>
  )
}

const List = styled.ul`
  list-style: none;
  margin: ${({ theme }) => `${theme.space.xs} 0 0`};
  padding: 0;
  font-size: ${({ theme }) => theme.size.note};
  li {
    display: grid;
    grid-template-columns: ${space.l} 1fr;
    gap: ${({ theme }) => theme.space.s};
    padding: ${({ theme }) => `${theme.space.sm} 0`};
    border-top: ${({ theme }) => theme.border.faint};
  }
  li:first-child {
    border: 0;
  }
  svg {
    margin-top: ${({ theme }) => theme.space.hair};
  }
`
const Islands = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.xs};
  margin-top: ${({ theme }) => theme.space.hair};
  button {
    font: ${({ theme }) => `${theme.size.tiny} ${theme.font.mono}`};
    border: ${({ theme }) => theme.border.line};
    border-radius: ${({ theme }) => theme.radius.round};
    background: none;
    color: inherit;
    padding: ${({ theme }) => `${theme.space.hair} ${theme.space.s}`};
    cursor: pointer;
  }
  [data-loose] {
    border-color: ${({ theme }) => theme.color.wine};
    color: ${({ theme }) => theme.color.wine};
  }
`

function islandsInWords(all: number, held: number): string {
  if (all === 1) return held === 1 ? 'The one island is held' : 'The one island is not held'
  return held === all ? `All ${all} islands held` : `${held} of ${all} islands held`
}
