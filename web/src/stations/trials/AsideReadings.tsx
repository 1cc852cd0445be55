import type { ReadingInput } from '@tender/contract'
import { FINISH_GRADES, RELEASE_GRADES, stepsOf, type Coupon } from '@tender/core/trial'
import { inUnit } from '../../format/numbers'
import { AsideList } from '../../keep/AsideList'
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
      (changes.forceN === null ? 'no pull' : `pull ${inUnit(changes.forceN, 'N')}`),
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

/** Readings that the server would not have. */
export function AsideReadings({ coupon, names, aside, onPut, onDrop }: Props) {
  const steps = new Map(stepsOf(coupon).map((step) => [step.key, step]))
  const entries = aside.map(({ id, key, changes, reason }) => {
    const step = steps.get(key)
    const name = step ? stepName(step, names) : null
    return {
      id,
      title: name ? `${name.value}, ${name.place}` : `A ${KINDS[coupon.kind].step} that is no longer there`,
      words: changesInWords(coupon, changes),
      reason,
      isThere: step !== undefined,
    }
  })
  return <AsideList label="Readings that were not taken" entries={entries} onPut={onPut} onDrop={onDrop} />
}
