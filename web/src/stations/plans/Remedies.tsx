import type { PlanRemedy } from '@tender/core/plan'
import styled from 'styled-components'
import { Button } from '../../ui/Button'
import { Buttons } from '../../ui/Dialog'
import { Differences } from './Differences'
import { usePlanSetting } from './PlanContext'
import { CardToken } from './Token'
import { useCopyPlan } from './useNewPlan'
import { useWhatIf } from './useWhatIf'

/** What would put a warning right, each with its price, taken here or as a variant of its own. */
export function Remedies({ remedies, partId }: { remedies: readonly PlanRemedy[]; partId: string }) {
  if (remedies.length === 0) return null
  return (
    <Ways>
      {remedies.map((remedy) => (
        <CardToken key={remedy.words} label={`What would help: ${remedy.words}`} face={remedy.words}>
          <RemedyCard remedy={remedy} partId={partId} />
        </CardToken>
      ))}
    </Ways>
  )
}

function RemedyCard({ remedy: { words, change }, partId }: { remedy: PlanRemedy; partId: string }) {
  const { summary, meshKey, after, change: changeHere } = usePlanSetting()
  const copy = useCopyPlan(partId)
  const [then] = useWhatIf(meshKey, [after(change)], summary !== null)
  return (
    <>
      <b>{words.charAt(0).toUpperCase() + words.slice(1)}</b>
      <Differences now={summary!} then={then} />
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
