import type { Learnt } from '@tender/core/decide'
import type { PlanRelease } from '@tender/core/plan'
import { ANY_TOOL_MM, type StandCheck } from '@tender/core/release'
import { useRef } from 'react'
import styled from 'styled-components'
import { counted, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Num, Sheet, SheetTitle, SoftLine, Unseen } from '../../ui/Sheet'
import { space } from '../../theme/measures'
import { useTold, type Told } from '../../workers/told'
import { standInWords } from './inWords'
import { StandRemedies } from './Remedies'
import type { Release } from './useRelease'

/** More than so many stands are told as a number. */
const TOLD = 8

/** How the stands come off, in the order to take them: which way, with what, and what to mind. */
export function ComingOff({
  release,
  learnt,
  onPlace,
  partId,
}: {
  release: Release
  learnt: Learnt
  onPlace: (atMm: StandCheck['atMm']) => void
  partId: string
}) {
  const sheet = useRef<HTMLElement>(null)
  const again = (look: () => void) => {
    // The button goes: who pressed it by key stays here.
    sheet.current?.focus()
    look()
  }
  return (
    <Sheet ref={sheet} tabIndex={-1} aria-label="How it comes off" aria-busy={'share' in release}>
      <SheetTitle>How it comes off</SheetTitle>
      {'check' in release ? (
        <Stands check={release.check} learnt={learnt} onPlace={onPlace} partId={partId} />
      ) : 'again' in release ? (
        <SoftLine>
          It could not be told this time. <Button onPress={() => again(release.again)}>Look again</Button>
        </SoftLine>
      ) : (
        <SoftLine>
          <Share of={release.share} /> Looking for ways out
        </SoftLine>
      )}
    </Sheet>
  )
}

const Share = ({ of }: { of: Told<number> }) => (
  <progress value={useTold(of)} aria-label="Looking for ways out" />
)

function Stands({
  check: { stands },
  learnt,
  onPlace,
  partId,
}: {
  check: PlanRelease
  learnt: Learnt
  onPlace: (atMm: StandCheck['atMm']) => void
  partId: string
}) {
  const minutes = stands.reduce((sum, stand) => sum + stand.minutes, 0)
  return (
    <>
      {stands.length === 0 ? (
        <SoftLine>There is nothing to take off.</SoftLine>
      ) : (
        <>
          <List>
            {stands.slice(0, TOLD).map((stand, n) => (
              <li key={n}>
                <button type="button" onClick={() => onPlace(stand.atMm)}>
                  <b data-verdict={stand.verdict}>{standInWords(stand)}</b>
                  <span>
                    <Unseen>, at </Unseen>
                    <Num>{stand.atMm[2].toFixed(0)}</Num>&nbsp;mm up,{' '}
                    {stand.verdict === 'locked in' ? (
                      'closed'
                    ) : stand.reachMm >= ANY_TOOL_MM ? (
                      'open to any tool'
                    ) : (
                      <>
                        tools to <Num>{stand.reachMm.toFixed(1)}</Num>&nbsp;mm
                      </>
                    )}
                    {stand.pullN !== null && (
                      <>
                        , about <Num>{three(stand.pullN)}</Num>&nbsp;N
                      </>
                    )}
                  </span>
                  {stand.reasons.length > 0 && <Reasons as="span">{stand.reasons.join('; ')}.</Reasons>}
                </button>
                <StandRemedies stand={stand} stands={stands.length} partId={partId} />
              </li>
            ))}
          </List>
          <SoftLine>
            {stands.length > TOLD && `And ${counted(stands.length - TOLD, 'stand')} more. `}
            {minutesSentence(minutes, learnt.minutes)}
          </SoftLine>
        </>
      )}
    </>
  )
}

/** How long it takes: a guess until take-offs were timed, then both. */
export function minutesSentence(guessed: number, learnt: Learnt['minutes']): string {
  const whole = (minutes: number) => Math.max(1, Math.round(minutes))
  if (!learnt) return `About ${whole(guessed)} min in all, a guess: no take-off was timed.`
  const { median, low, high } = learnt.factor
  return `About ${whole(median * guessed)} min in all (${whole(low * guessed)} to ${whole(high * guessed)}) by ${counted(learnt.takeOffs, 'take-off')}; guessed were ${whole(guessed)}.`
}

/** What to mind, begun like a sentence. */
const Reasons = styled(SoftLine)`
  &::first-letter {
    text-transform: uppercase;
  }
  display: block;
`
const List = styled.ol`
  margin: ${({ theme }) => `${theme.space.xs} 0`};
  padding: 0;
  list-style: none;
  counter-reset: stand;
  li {
    counter-increment: stand;
    display: grid;
    grid-template-columns: ${space.xl} 1fr;
    border-top: ${({ theme }) => theme.border.faint};
  }
  li:first-child {
    border: 0;
  }
  li > div {
    grid-column: 2;
    padding-bottom: ${({ theme }) => theme.space.s};
  }
  li::before {
    content: counter(stand);
    font: ${({ theme }) => `${theme.size.tiny} ${theme.font.mono}`};
    color: ${({ theme }) => theme.color.soft};
    padding-top: ${({ theme }) => theme.space.s};
  }
  li > button {
    display: grid;
    gap: ${({ theme }) => theme.space.hair};
    text-align: left;
    font: ${({ theme }) => `${theme.size.note} ${theme.font.sans}`};
    color: inherit;
    background: none;
    border: 0;
    padding: ${({ theme }) => `${theme.space.sm} 0`};
    cursor: pointer;
  }
  li > button:hover b {
    color: ${({ theme }) => theme.color.damson};
  }
  b {
    font-weight: 600;
  }
  [data-verdict='locked in'] {
    color: ${({ theme }) => theme.color.wine};
  }
`
