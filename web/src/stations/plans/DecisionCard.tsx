import { planPrinter, type StoredFilament } from '@tender/contract'
import { clingGuess, filamentOf } from '@tender/core/bench'
import {
  bookOf,
  DECISION_RANGES,
  type NumberDecision,
  type PlanChange,
  type SpokenFor,
} from '@tender/core/decide'
import { suggestedDensity } from '@tender/core/plan'
import { FULL_COMPASS } from '@tender/core/trial'
import styled from 'styled-components'
import { counted, day, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { AngleInput, NumberInput, Segments, Swatch } from '../../ui/Fields'
import { Num, Soft, SoftLine } from '../../ui/Sheet'
import { CHOICES, FILAMENT_ROLES, NUMBERS, type ChoiceDecision, type FilamentDecision } from './catalogue'
import { Differences } from './Differences'
import { EvidenceLink } from '../../ui/EvidenceLink'
import { EvidencePicture } from './EvidencePicture'
import { usePlanSetting } from './PlanContext'
import { useWhatIf } from './useWhatIf'

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
      {name === 'freeAngleDeg' ? (
        <AngleInput label="Leans past" value={value} onChange={set} min={low} max={high} autoFocus />
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

/** Which filament plays a role; each with how it clings to what it touches and what it would change. */
export function FilamentCard({ name }: { name: FilamentDecision }) {
  const { document, summary, meshKey, filaments, after, change, broughtAlong, evidenceOf } = usePlanSetting()
  const current = document.decisions[name]
  const others = filaments.filter(({ id }) => id !== current)
  const taking = (one: StoredFilament): PlanChange => ({
    decisions: { [name]: one.id },
    filaments: [broughtAlong(one)],
  })
  const documents = others.map((one) => after(taking(one)))
  const thoughts = useWhatIf(meshKey, documents, summary !== null)
  const part = filamentOf(document.filaments, document.decisions.partFilament)
  return (
    <>
      <Head>
        <b>{FILAMENT_ROLES[name]}</b>
      </Head>
      {filaments.length === 0 && (
        <SoftLine>No filament is on the bench any more; the plan keeps the one it has.</SoftLine>
      )}
      {filaments.map((one) => (
        <Way key={one.id} type="button" aria-pressed={one.id === current} onClick={() => change(taking(one))}>
          <b>
            <Swatch style={{ background: one.colour }} /> {one.name}
          </b>
          {name === 'interfaceFilament' && (
            <SoftLine as="span">
              {clingWord(
                clingGuess(
                  part.family,
                  one.family,
                  bookOf(one.id === current ? document : documents[others.indexOf(one)]),
                ).cling,
              )}{' '}
              to {part.name};{' '}
              {evidenceOf(one.id === current ? document : documents[others.indexOf(one)]).upperGapMm?.readings
                ? 'its gap was measured'
                : 'its gap is a guess'}
            </SoftLine>
          )}
          {one.id !== current && summary && (
            <Differences now={summary} then={thoughts[others.indexOf(one)]} />
          )}
        </Way>
      ))}
    </>
  )
}

const clingWord = (cling: number) =>
  cling >= 4
    ? 'Welds'
    : cling >= 3
      ? 'Clings strongly'
      : cling >= 2
        ? 'Clings'
        : cling >= 1
          ? 'Clings weakly'
          : 'Does not cling'

export function PrinterCard() {
  const { document, printers, change } = usePlanSetting()
  return (
    <>
      <Head>
        <b>Printer</b>
      </Head>
      {printers.map((one) => (
        <Way
          key={one.id}
          type="button"
          aria-pressed={one.id === document.printer.id}
          onClick={() => change({ printer: planPrinter(one) })}
        >
          <b>{one.name}</b>
          <SoftLine as="span">
            {one.feed === 'nozzles'
              ? `${counted(one.loads, 'nozzle')} of ${one.nozzleMm} mm`
              : `one ${one.nozzleMm} mm nozzle, ${counted(one.loads, 'slot')}`}
          </SoftLine>
        </Way>
      ))}
    </>
  )
}

const Head = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  > span {
    font-size: 20px;
  }
`
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
const Way = styled.button`
  display: grid;
  gap: ${({ theme }) => theme.space.hair};
  text-align: left;
  font: ${({ theme }) => `${theme.size.note} ${theme.font.sans}`};
  color: ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.s};
  padding: ${({ theme }) => `${theme.space.s} ${theme.space.md}`};
  cursor: pointer;
  b {
    display: flex;
    gap: ${({ theme }) => theme.space.s};
    align-items: center;
    font-weight: 600;
  }
  &[aria-pressed='true'] {
    background: ${({ theme }) => theme.color.damsonWash};
    border-color: ${({ theme }) => theme.color.damson};
  }
  &:hover {
    border-color: ${({ theme }) => theme.color.damson};
  }
`
const News = styled.p`
  padding: ${({ theme }) => `${theme.space.sm} ${theme.space.md}`};
  border-left: 3px solid ${({ theme }) => theme.color.damson};
  background: ${({ theme }) => theme.color.damsonWash};
`
