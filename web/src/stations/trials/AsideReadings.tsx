import type { ReadingInput } from '@tender/contract'
import { FINISH_GRADES, RELEASE_GRADES, stepsOf, type Coupon } from '@tender/core/trial'
import styled from 'styled-components'
import { three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Buttons } from '../../ui/Dialog'
import { GRADE_WORDS, KINDS, stepName, type SwapNames } from './trialKinds'
import type { AsideReading } from './useReadings'

/** What was read, in words, field by field. */
function changesInWords({ kind }: Coupon, changes: Partial<ReadingInput>): string {
  const word = (words: readonly string[], grade: number | null) =>
    grade === null ? 'not read' : words[grade - 1]
  return [
    changes.grade !== undefined && word(GRADE_WORDS[kind], changes.grade),
    changes.release !== undefined && `came off ${word(RELEASE_GRADES, changes.release)}`,
    changes.finish !== undefined && `face ${word(FINISH_GRADES, changes.finish)}`,
    changes.forceN !== undefined &&
      (changes.forceN === null ? 'no pull' : `pull ${three(changes.forceN)}\u2009N`),
    changes.leftOut !== undefined && (changes.leftOut ? 'left out' : 'counted'),
    changes.note !== undefined && `note “${changes.note}”`,
  ]
    .filter(Boolean)
    .join(', ')
}

type Props = {
  readonly coupon: Coupon
  readonly names: SwapNames
  readonly aside: readonly AsideReading[]
  readonly onPut: (id: string) => void
  readonly onDrop: (id: string) => void
}

/** Readings that the server would not have. They stay here until the maker has chosen; the others went on. */
export function AsideReadings({ coupon, names, aside, onPut, onDrop }: Props) {
  if (aside.length === 0) return null
  const steps = new Map(stepsOf(coupon).map((step) => [step.key, step]))
  return (
    <List aria-label="Readings that were not taken" role="alert">
      {aside.map(({ id, step: key, changes, reason }) => {
        const step = steps.get(key)
        const name = step ? stepName(step, names) : null
        return (
          <li key={id}>
            <p>
              <b>
                {name
                  ? `${name.value}, ${name.place}`
                  : `A ${KINDS[coupon.kind].step} that is no longer there`}
              </b>
              : {changesInWords(coupon, changes)}. {reason}
            </p>
            <Buttons>
              {step && <Button onPress={() => onPut(id)}>Use mine</Button>}
              <Button quiet onPress={() => onDrop(id)}>
                {step ? 'Leave what stands there' : 'Let it go'}
              </Button>
            </Buttons>
          </li>
        )
      })}
    </List>
  )
}

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: ${({ theme }) => theme.space.s};
  li {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    align-items: center;
    gap: ${({ theme }) => theme.space.s};
    padding: ${({ theme }) => `${theme.space.s} ${theme.space.m}`};
    border-left: 3px solid ${({ theme }) => theme.color.clay};
    background: ${({ theme }) => theme.color.damsonWash};
    border-radius: ${({ theme }) => theme.radius.s};
  }
  p {
    flex: 1 1 20em;
  }
`
