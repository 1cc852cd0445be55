import {
  dissolvingWays,
  type PlanRemedy,
  type PlanSummary,
  type PlanWarning,
  type StandRelease,
} from '@tender/core/plan'
import { isNarrow, type StandCheck } from '@tender/core/release'
import styled from 'styled-components'
import { Button } from '../../ui/Button'
import { Buttons } from '../../ui/Dialog'
import { SoftLine } from '../../ui/Sheet'
import { Differences } from './Differences'
import { standInWords, VERDICT_WORDS } from './inWords'
import { usePlanSetting } from './PlanContext'
import { CardToken } from './Token'
import { useCopyPlan } from './useNewPlan'
import { useWhatIf, type Thought } from './useWhatIf'

/** What would put a warning right. */
export function WarningRemedies({ warning, partId }: { warning: PlanWarning; partId: string }) {
  const { code, severity, remedies = [] } = warning
  return (
    <Remedies
      remedies={remedies}
      // What is closed cannot be washed out either.
      washes={code === 'LOCKED_IN' && severity === 'warning'}
      partId={partId}
      outcome={(then, now) => outcomeOf(code, now, then)}
    />
  )
}

/** What would put right what there is to mind about a stand. */
export const StandRemedies = ({
  stand,
  stands,
  partId,
}: {
  stand: StandRelease
  /** How many the plan has. */ stands: number
  partId: string
}) => (
  <Remedies
    remedies={stand.remedies}
    washes={isNarrow(stand)}
    partId={partId}
    outcome={(then) => standOutcome(stand, stands, then)}
  />
)

type Ways = {
  readonly partId: string
  /** What becomes of what is minded, once that is known. */
  readonly outcome: (then: Thought, now: PlanSummary) => string | null
}

/**
 * Ways to put something right, each with its price, taken here or as a variant of its own.
 * @param washes whether it may as well dissolve
 */
function Remedies({
  remedies,
  washes,
  ...more
}: Ways & { remedies: readonly PlanRemedy[]; washes: boolean }) {
  if (remedies.length === 0 && !washes) return null
  return (
    <Chips>
      {remedies.map((remedy) => (
        <RemedyToken key={remedy.words} remedy={remedy} {...more} />
      ))}
      {washes && <DissolvingTokens {...more} />}
    </Chips>
  )
}

function DissolvingTokens(more: Ways) {
  const { document, filaments, broughtAlong, book } = usePlanSetting()
  return dissolvingWays(document, filaments.map(broughtAlong), book).map((remedy) => (
    <RemedyToken key={remedy.words} remedy={remedy} {...more} />
  ))
}

const RemedyToken = ({ remedy, ...more }: Ways & { remedy: PlanRemedy }) => (
  <CardToken label={`What would help: ${remedy.words}`} face={remedy.words}>
    <RemedyCard remedy={remedy} {...more} />
  </CardToken>
)

function RemedyCard({ remedy: { words, change }, outcome, partId }: Ways & { remedy: PlanRemedy }) {
  const { summary, meshKey, after, change: changeHere } = usePlanSetting()
  const copy = useCopyPlan(partId)
  const [then] = useWhatIf(meshKey, [after(change)], summary !== null)
  return (
    <>
      <b>{words.charAt(0).toUpperCase() + words.slice(1)}</b>
      <Differences now={summary} then={then} none="costs nothing that counts" />
      {summary && then && <SoftLine>{outcome(then, summary)}</SoftLine>}
      <Buttons>
        <Button main onPress={() => changeHere(change)}>
          Change this plan
        </Button>
        <Button
          isDisabled={copy.isPending}
          onPress={() => copy.mutate({ document: after(change), figures: null })}
        >
          Make it a variant
        </Button>
      </Buttons>
    </>
  )
}

/** Whether what was minded is put right, and what there would be to mind instead. */
export function outcomeOf(code: PlanWarning['code'], now: PlanSummary, then: PlanSummary): string {
  const stays = then.warnings.find((one) => one.code === code)
  const fresh = then.warnings.filter(
    (one) => one.severity !== 'note' && !now.warnings.some((old) => old.code === one.code),
  )
  return [
    stays ? `Not all of it is put right: ${stays.message}` : 'That puts it right.',
    ...fresh.map(({ message }) => `But then: ${message}`),
  ].join(' ')
}

/** A stand this far from where it was is another one. */
const SAME_STAND_MM = 15

/**
 * What becomes of a stand, or of all where it cannot be told from others then; null while that is not known.
 * @param stands how many there are now
 */
export function standOutcome({ atMm }: StandCheck, stands: number, { release }: Thought): string | null {
  if (!release) return null
  const away = (stand: StandCheck) => Math.hypot(...stand.atMm.map((at, axis) => at - atMm[axis]))
  const nearest = release.stands.toSorted((a, b) => away(a) - away(b))[0]
  if (nearest && away(nearest) <= SAME_STAND_MM)
    return `What stands there then: ${standInWords(nearest)}; ${nearest.reasons.join('; ') || 'nothing to mind'}.`
  return release.stands.length < stands
    ? 'Nothing stands there then.'
    : `How they come off then: ${VERDICT_WORDS[release.verdict]}.`
}

const Chips = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.xs};
  margin-top: ${({ theme }) => theme.space.xs};
  button {
    font: 500 ${({ theme }) => `${theme.size.small} ${theme.font.sans}`};
    white-space: normal;
    text-align: left;
  }
`
