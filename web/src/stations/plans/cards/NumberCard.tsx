import { DECISION_RANGES, type NumberDecision, type SpokenFor } from '@tender/core/decide'
import { suggestedDensity } from '@tender/core/plan'
import { FULL_COMPASS } from '@tender/core/trial'
import styled from 'styled-components'
import { counted, day, three } from '../../../format/numbers'
import { length } from '../../../theme/measures'
import { Button } from '../../../ui/Button'
import { EvidenceLink } from '../../../ui/EvidenceLink'
import { AngleInput, NumberInput, Segments } from '../../../ui/fields'
import { Num, Soft, SoftLine } from '../../../ui/Sheet'
import { NUMBERS } from '../catalogue'
import { Differences } from '../Differences'
import { EvidencePicture } from '../EvidencePicture'
import { usePlanSetting } from '../PlanContext'
import { useWhatIf } from '../useWhatIf'
import { Head } from './cardStyle'

/** A number, where it comes from, and what one step more or less would change. */
export function NumberCard({ name }: { name: NumberDecision }) {
  const { document, summary, meshKey, after, decide, newer, takeNewer } = usePlanSetting()
  const [low, high, step] = DECISION_RANGES[name]
  const value = document.decisions[name]
  const { label, unit, show, about, factor = 1 } = NUMBERS[name]
  const evidence = document.evidence[name as SpokenFor]
  const news = newer[name as SpokenFor]
  const stepped = [value + step, value - step].map((next) =>
    Number(Math.min(high, Math.max(low, next)).toFixed(4)),
  )
  const [more, less] = useWhatIf(
    meshKey,
    stepped.map((next) => after({ decisions: { [name]: next } })),
    summary !== null,
  )
  const set = (next: number) => Number.isFinite(next) && decide({ [name]: Number(next.toFixed(4)) })
  return (
    <>
      <Head>
        <b>{label}</b>
        <Num>{show(value)}</Num>
      </Head>
      {name === 'freeAngleDeg' || name === 'leanDeg' ? (
        <>
          <AngleInput
            label={name === 'leanDeg' ? 'Leans at most' : 'Leans past'}
            value={value}
            onChange={set}
            min={low}
            max={high}
            autoFocus
          />
          <SoftLine>{about}</SoftLine>
        </>
      ) : (
        <NumberInput
          label={about}
          unit={unit}
          value={Number((value * factor).toFixed(4))}
          onChange={(next) => set(next / factor)}
          min={low * factor}
          max={high * factor}
          step={step * factor}
          autoFocus
        />
      )}
      {evidence && (
        <>
          <EvidencePicture name={name as SpokenFor} evidence={evidence} value={value} />
          <p>
            {evidence.trials.length > 0 && (
              <>
                From{' '}
                {evidence.trials.map((trial, i) => (
                  <span key={trial.id}>
                    {i > 0 && ', '}
                    <EvidenceLink {...trial} />
                  </span>
                ))}
                , {counted(evidence.readings, 'reading')}
                {evidence.newest && `, the newest of ${day(evidence.newest)}`}.{' '}
              </>
            )}
            {evidence.sentence}
          </p>
          {evidence.mismatches.map((mismatch) => (
            <SoftLine key={mismatch}>{mismatch}</SoftLine>
          ))}
          {news && (
            <News>
              Readings since then say {show(news.value)}. <Button onPress={takeNewer}>Take it</Button>
            </News>
          )}
          {evidence.value !== value && (
            <div>
              <Button onPress={() => decide({ [name]: evidence.value })}>
                Back to {show(evidence.value)}
              </Button>
            </div>
          )}
        </>
      )}
      {name === 'freeAngleDeg' && <SideLimits />}
      {name === 'standDensity' && <ByWidth value={value} onTake={set} />}
      {summary && (
        <Ways>
          <dt>{show(stepped[0])}</dt>
          <dd>
            {stepped[0] === value ? (
              <Soft>as far as it goes</Soft>
            ) : (
              <Differences now={summary} then={more} />
            )}
          </dd>
          <dt>{show(stepped[1])}</dt>
          <dd>
            {stepped[1] === value ? (
              <Soft>as far as it goes</Soft>
            ) : (
              <Differences now={summary} then={less} />
            )}
          </dd>
        </Ways>
      )}
    </>
  )
}

/** Fill that the width of the stands asks for. */
function ByWidth({ value, onTake }: { value: number; onTake: (density: number) => void }) {
  const { document, summary, holding } = usePlanSetting()
  const wide = summary?.standWidthsMm[holding]
  if (!wide) return null
  const suggested = suggestedDensity(wide, document.decisions)
  return (
    <p>
      Stands are about {three(wide)} mm wide here: by rule of thumb {NUMBERS.standDensity.show(suggested)}.{' '}
      {suggested !== value && <Button onPress={() => onTake(suggested)}>Take it</Button>}
    </p>
  )
}

/** One limit for all sides, or for each its own: offered when a fan was read on several. */
function SideLimits() {
  const { document, decide } = usePlanSetting()
  const sides = document.decisions.sideAnglesDeg ?? document.evidence.freeAngleDeg?.sidesDeg
  if (!sides) return null
  const own = document.decisions.sideAnglesDeg !== null
  return (
    <>
      <Segments
        label="Which limit counts"
        value={own ? 'own' : 'all'}
        onChange={(value) => decide({ sideAnglesDeg: value === 'own' ? sides : null })}
        options={[
          { value: 'all', label: 'this one all around' },
          { value: 'own', label: 'each side its own' },
        ]}
      />
      <SoftLine>{FULL_COMPASS.map((side, k) => `${side} ${Math.round(sides[k])}°`).join(', ')}.</SoftLine>
    </>
  )
}

const Ways = styled.dl`
  display: grid;
  grid-template-columns: auto 1fr;
  gap: ${({ theme }) => `${theme.space.hair} ${theme.space.m}`};
  margin: 0;
  padding-top: ${({ theme }) => theme.space.s};
  border-top: ${({ theme }) => theme.border.faint};
  dt {
    color: ${({ theme }) => theme.color.soft};
    font-family: ${({ theme }) => theme.font.mono};
    font-size: ${({ theme }) => theme.size.small};
  }
  dd {
    margin: 0;
  }
`
const News = styled.p`
  padding: ${({ theme }) => `${theme.space.sm} ${theme.space.md}`};
  border-left: ${length.edge} solid ${({ theme }) => theme.color.damson};
  background: ${({ theme }) => theme.color.damsonWash};
`
