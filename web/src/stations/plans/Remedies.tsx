import type { PlanRemedy, PlanSummary, PlanWarning } from '@tender/core/plan'
import styled from 'styled-components'
import { Button } from '../../ui/Button'
import { Buttons } from '../../ui/Dialog'
import { SoftLine } from '../../ui/Sheet'
import { Differences } from './Differences'
import { usePlanSetting } from './PlanContext'
import { CardToken } from './Token'
import { useCopyPlan } from './useNewPlan'
import { useWhatIf } from './useWhatIf'

/** What would put a warning right, each with its price, taken here or as a variant of its own. */
export function Remedies({ warning, partId }: { warning: PlanWarning; partId: string }) {
  const { code, remedies = [] } = warning
  if (remedies.length === 0) return null
  return (
    <Ways>
      {remedies.map((remedy) => (
        <CardToken key={remedy.words} label={`What would help: ${remedy.words}`} face={remedy.words}>
          <RemedyCard remedy={remedy} code={code} partId={partId} />
        </CardToken>
      ))}
    </Ways>
  )
}

function RemedyCard({
  remedy: { words, change },
  code,
  partId,
}: {
  remedy: PlanRemedy
  code: PlanWarning['code']
  partId: string
}) {
  const { summary, meshKey, after, change: changeHere } = usePlanSetting()
  const copy = useCopyPlan(partId)
  const [then] = useWhatIf(meshKey, [after(change)], summary !== null)
  return (
    <>
      <b>{words.charAt(0).toUpperCase() + words.slice(1)}</b>
      <Differences now={summary!} then={then} none="costs nothing that counts" />
      {then && <SoftLine>{outcomeOf(code, summary!, then)}</SoftLine>}
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

const Ways = styled.div`
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
