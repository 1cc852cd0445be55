import { SoftLine } from '../../../ui/Sheet'
import { CHOICES, type ChoiceDecision } from '../catalogue'
import { Differences } from '../Differences'
import { usePlanSetting } from '../PlanContext'
import { useWhatIf } from '../useWhatIf'
import { Head, Way } from './cardStyle'

/** A choice: each way with what it means and what it would change. */
export function ChoiceCard({ name }: { name: ChoiceDecision }) {
  const { document, summary, meshKey, after, decide } = usePlanSetting()
  const { label, options } = CHOICES[name] as {
    label: string
    options: readonly { value: string | boolean; word: string; means: string }[]
  }
  const others = options.filter((option) => option.value !== document.decisions[name])
  const thoughts = useWhatIf(
    meshKey,
    others.map((option) => after({ decisions: { [name]: option.value } })),
    summary !== null,
  )
  return (
    <>
      <Head>
        <b>{label}</b>
      </Head>
      {options.map((option) => {
        const current = option.value === document.decisions[name]
        return (
          <Way
            key={option.word}
            type="button"
            aria-pressed={current}
            onClick={() => decide({ [name]: option.value })}
          >
            <b>{option.word}</b>
            <SoftLine as="span">{option.means}</SoftLine>
            {!current && summary && <Differences now={summary} then={thoughts[others.indexOf(option)]} />}
          </Way>
        )
      })}
    </>
  )
}
