import type { PlanSummary } from '@tender/core/plan'
import type { ReleaseCheck, StandVerdict } from '@tender/core/release'
import { use } from 'react'
import styled from 'styled-components'
import { chance, duration, grams, signed } from '../../format/numbers'
import { Num, Soft } from '../../ui/Sheet'
import { VERDICT_WORDS } from './inWords'
import { ReleaseContext } from './PlanContext'
import type { Thought } from './useWhatIf'

/**
 * What another way would change: grams, time, swaps, chance of coming off clean, what is purged, how stands
 * come off. Nothing is shown that does not change.
 */
export function Differences({
  now,
  then,
  none = 'changes nothing that counts',
}: {
  now: PlanSummary | null
  then: Thought | null
  /** What is said where nothing changes. */ none?: string
}) {
  const check = use(ReleaseContext)
  if (!now || !then) return <Soft>working it out ...</Soft>
  const parts: { text: string; better: boolean }[] = []
  const mass = then.estimate.massG - now.estimate.massG
  const time = then.timeS - now.timeS
  const swaps = then.swaps - now.swaps
  if (Math.abs(mass) >= 0.05) parts.push({ text: signed(mass, grams), better: mass < 0 })
  if (Math.abs(time) >= 30) parts.push({ text: signed(time, duration), better: time < 0 })
  if (swaps !== 0) parts.push({ text: `${signed(swaps, String)} swaps`, better: swaps < 0 })
  if (then.pTender !== null && now.pTender !== null && Math.abs(then.pTender - now.pTender) >= 0.005)
    parts.push({
      text: `${signed(then.pTender - now.pTender, chance)} clean`,
      better: then.pTender > now.pTender,
    })
  const purged = then.estimate.roles.purge.g - now.estimate.roles.purge.g
  if (Math.abs(purged) >= 0.05) parts.push({ text: `${signed(purged, grams)} purged`, better: purged < 0 })
  if (check && then.release) parts.push(...releaseParts(check, then.release))
  const errors = (summary: PlanSummary) =>
    summary.warnings.filter((warning) => warning.severity === 'error').length
  if (errors(then) > errors(now)) parts.push({ text: 'something would fail', better: false })
  if (parts.length === 0) return <Soft>{none}</Soft>
  return (
    <Row>
      {parts.map(({ text, better }) => (
        <Num key={text} data-better={better}>
          {text}
        </Num>
      ))}
    </Row>
  )
}

/** From the best to the worst. */
const WORSE: readonly StandVerdict[] = ['comes out whole', 'comes out in pieces', 'locked in']

/** How stands come off: in which words, and in how many minutes. Without stands there is nothing to say. */
function releaseParts(now: ReleaseCheck, then: ReleaseCheck): { text: string; better: boolean }[] {
  const parts: { text: string; better: boolean }[] = []
  const minutesOf = ({ stands }: ReleaseCheck) => stands.reduce((sum, { minutes }) => sum + minutes, 0)
  const minutes = Math.round(minutesOf(then) - minutesOf(now))
  if (minutes !== 0) parts.push({ text: `${signed(60 * minutes, duration)} taking off`, better: minutes < 0 })
  if (now.stands.length > 0 && then.stands.length > 0 && then.verdict !== now.verdict)
    parts.push({
      text: VERDICT_WORDS[then.verdict],
      better: WORSE.indexOf(then.verdict) < WORSE.indexOf(now.verdict),
    })
  return parts
}

const Row = styled.span`
  display: inline-flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => `${theme.space.hair} ${theme.space.m}`};
  [data-better='true'] {
    color: ${({ theme }) => theme.color.pine};
  }
  [data-better='false'] {
    color: ${({ theme }) => theme.color.wine};
  }
`
