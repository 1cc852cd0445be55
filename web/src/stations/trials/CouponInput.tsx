import type { ReadingInput, StepReading } from '@tender/contract'
import { FAN_GRADES, FINISH_GRADES, RELEASE_GRADES, stepsOf, type Coupon, type Grade, type Step } from '@tender/core/trial'
import { useRef, type KeyboardEvent } from 'react'
import styled from 'styled-components'
import { gapMm, mm } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { NumberInput, Toggle } from '../../ui/Fields'
import { Key, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { ArmDrawing, TileDrawing } from './StepDrawings'

const FINISH_KEYS = ['q', 'w', 'e', 'r', 't']

type Props = {
  coupon: Coupon
  readings: readonly StepReading[]
  selected: string
  onSelect: (step: string) => void
  onRead: (step: string, change: Partial<ReadingInput>) => void
}

/** The coupon as it lies on the bench. Arrow keys move over it, one key gives a grade. */
export function CouponInput({ coupon, readings, selected, onSelect, onRead }: Props) {
  const steps = stepsOf(coupon)
  const columns = coupon.kind === 'fan' ? coupon.anglesDeg.length : coupon.gapsMm.length
  const rows = coupon.kind === 'fan' ? coupon.directions.map((direction) => `${direction}`) : coupon.spacingsMm.map((spacing) => (spacing === 0 ? 'solid' : `lines ${mm(spacing)} apart`))
  const byStep = new Map(readings.map((reading) => [reading.step, reading]))
  const buttons = useRef(new Map<string, HTMLButtonElement>())
  const at = Math.max(0, steps.findIndex((step) => step.key === selected)) // prettier-ignore
  const current = steps[at]
  const reading = byStep.get(current.key)

  const go = (to: number) => {
    const step = steps[Math.max(0, Math.min(steps.length - 1, to))]
    onSelect(step.key)
    buttons.current.get(step.key)?.focus()
  }
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return
    const key = event.key.toLowerCase()
    const moves: Record<string, number> = { arrowleft: -1, arrowright: 1, arrowup: -columns, arrowdown: columns }
    const figure = Number(key)
    const finish = FINISH_KEYS.indexOf(key)
    if (key in moves) {
      if (at + moves[key] >= 0 && at + moves[key] < steps.length) go(at + moves[key])
    } else if (key === 'home') go(0)
    else if (key === 'end') go(steps.length - 1)
    else if (figure >= 1 && figure <= 5) onRead(current.key, coupon.kind === 'fan' ? { grade: figure as Grade } : { release: figure as Grade })
    else if (coupon.kind === 'gap' && finish >= 0) onRead(current.key, { finish: (finish + 1) as Grade })
    else if (key === 'x') onRead(current.key, { leftOut: !reading?.leftOut })
    else if (key === 'backspace' || key === 'delete') onRead(current.key, { grade: null, release: null, finish: null, forceN: null, leftOut: false })
    else return
    event.preventDefault()
  }

  return (
    <Frame aria-label="The coupon">
      <SheetTitle>{coupon.kind === 'fan' ? 'Pick an arm, say how its underside looks' : 'Pick a tile, say how it came off and how its face looks'}</SheetTitle>
      <Scroll onKeyDown={onKeyDown}>
        {rows.map((name, row) => (
          <Row key={name}>
            {(rows.length > 1 || coupon.kind === 'gap') && <RowName>{name}</RowName>}
            <Steps
              role="group"
              aria-label={coupon.kind === 'fan' ? `Arms facing ${name}` : `Tiles, ${name}`}
              style={{ gridTemplateColumns: `repeat(${columns}, minmax(${coupon.kind === 'fan' ? 34 : 44}px, ${coupon.kind === 'fan' ? 78 : 92}px))` }}
            >
              {steps.slice(row * columns, (row + 1) * columns).map((step) => (
                <StepButton
                  key={step.key}
                  ref={(node) => void (node ? buttons.current.set(step.key, node) : buttons.current.delete(step.key))}
                  type="button"
                  tabIndex={step.key === current.key ? 0 : -1}
                  aria-pressed={step.key === current.key}
                  aria-label={describe(step, byStep.get(step.key))}
                  onClick={() => onSelect(step.key)}
                >
                  {step.kind === 'fan' ? <ArmDrawing step={step} reading={byStep.get(step.key)} /> : <TileDrawing step={step} reading={byStep.get(step.key)} />}
                </StepButton>
              ))}
            </Steps>
          </Row>
        ))}
      </Scroll>
      {coupon.kind === 'gap' && <SoftLine>Round mark: how it came off. Square mark: its face. Gaps are drawn much larger than they are.</SoftLine>}
      <Grading onKeyDown={onKeyDown}>
        <Which>
          <b>{current.kind === 'fan' ? `${current.angleDeg}°` : gapMm(current.gapMm)}</b>
          <SoftLine>{current.kind === 'fan' ? `facing ${current.direction}, ${90 - current.angleDeg}° from bed` : `tile ${at + 1} of ${steps.length}`}</SoftLine>
        </Which>
        <div>
          {current.kind === 'fan' ? (
            <GradeRow label="How the underside looks" words={FAN_GRADES} keys={['1', '2', '3', '4', '5']} value={reading?.grade ?? null} onChange={(grade) => onRead(current.key, { grade })} />
          ) : (
            <>
              <GradeRow label="How it came off" words={RELEASE_GRADES} keys={['1', '2', '3', '4', '5']} value={reading?.release ?? null} onChange={(release) => onRead(current.key, { release })} />
              <GradeRow label="How the face looks" words={FINISH_GRADES} keys={['Q', 'W', 'E', 'R', 'T']} value={reading?.finish ?? null} onChange={(finish) => onRead(current.key, { finish })} />
            </>
          )}
          <Extras onKeyDown={(event) => (event.target as HTMLElement).tagName === 'INPUT' && event.stopPropagation()}>
            {current.kind === 'gap' && (
              <Pull>
                <NumberInput
                  label="Pull, if measured"
                  unit="N"
                  value={reading?.forceN ?? null}
                  min={0}
                  max={5000}
                  onChange={(force) => onRead(current.key, { forceN: Number.isFinite(force) ? force : null })}
                />
              </Pull>
            )}
            <Toggle value={reading?.leftOut ?? false} onChange={(leftOut) => onRead(current.key, { leftOut })}>
              Leave it out of the answer
            </Toggle>
            <Button quiet onPress={() => onRead(current.key, { grade: null, release: null, finish: null, forceN: null, leftOut: false })}>
              Take the reading back
            </Button>
            <span className="gap" />
            <span className="steps">
              <Button aria-label="Step before" isDisabled={at === 0} onPress={() => go(at - 1)}>
                ←
              </Button>
              <Button aria-label="Next step" isDisabled={at === steps.length - 1} onPress={() => go(at + 1)}>
                →
              </Button>
            </span>
          </Extras>
        </div>
      </Grading>
    </Frame>
  )
}

function describe(step: Step, reading: StepReading | undefined): string {
  const left = reading?.leftOut ? ', left out' : ''
  if (step.kind === 'fan') return `${step.angleDeg}° facing ${step.direction}: ${reading?.grade ? FAN_GRADES[reading.grade - 1] : 'not read'}${left}`
  const release = reading?.release ? RELEASE_GRADES[reading.release - 1] : 'not read'
  const finish = reading?.finish ? FINISH_GRADES[reading.finish - 1] : 'not read'
  return `${step.gapMm.toFixed(2)} mm: came off ${release}, face ${finish}${left}`
}

function GradeRow({ label, words, keys, value, onChange }: { label: string; words: readonly string[]; keys: readonly string[]; value: Grade | null; onChange: (grade: Grade) => void }) {
  return (
    <div role="group" aria-label={label}>
      <SoftLine>{label}</SoftLine>
      <Grades>
        {words.map((word, i) => (
          <GradeButton key={word} type="button" aria-pressed={value === i + 1} onClick={() => onChange((i + 1) as Grade)}>
            <Key>{keys[i]}</Key>
            <span>{word}</span>
          </GradeButton>
        ))}
      </Grades>
    </div>
  )
}

const Frame = styled(Sheet)`
  display: flex;
  flex-direction: column;
  gap: ${({ theme }) => theme.space.m};
`
const Scroll = styled.div`
  overflow-x: auto;
  display: grid;
  gap: ${({ theme }) => theme.space.xs};
  padding: 4px;
`
const Row = styled.div`
  display: grid;
`
const RowName = styled.div`
  font-size: ${({ theme }) => theme.size.small};
  color: ${({ theme }) => theme.color.soft};
`
const Steps = styled.div`
  display: grid;
  gap: 4px;
`
const StepButton = styled.button`
  border: 2px solid transparent;
  border-radius: ${({ theme }) => theme.radius.s};
  background: none;
  padding: 3px 2px;
  cursor: pointer;
  min-width: 0;
  &:hover {
    background: ${({ theme }) => theme.color.paper};
  }
  &[aria-pressed='true'] {
    border-color: ${({ theme }) => theme.color.damson};
    background: ${({ theme }) => theme.color.damsonWash};
  }
  svg {
    display: block;
  }
`
const Grading = styled.div`
  display: grid;
  grid-template-columns: 118px minmax(0, 1fr);
  gap: ${({ theme }) => theme.space.m};
  border-top: 1px solid ${({ theme }) => theme.color.faint};
  padding-top: ${({ theme }) => theme.space.m};
  > div:last-child {
    display: grid;
    gap: ${({ theme }) => theme.space.s};
  }
  @media (max-width: 640px) {
    grid-template-columns: minmax(0, 1fr);
  }
`
const Which = styled.div`
  b {
    font: 500 21px ${({ theme }) => theme.font.mono};
  }
`
const Grades = styled.div`
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  gap: 7px;
  margin-top: 3px;
`
const GradeButton = styled.button`
  font: 13px ${({ theme }) => theme.font.sans};
  color: ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.sheet};
  border: 1px solid ${({ theme }) => theme.color.line};
  border-radius: ${({ theme }) => theme.radius.s};
  padding: 6px 4px;
  min-height: 48px;
  display: grid;
  gap: 2px;
  justify-items: center;
  align-content: center;
  cursor: pointer;
  &[aria-pressed='true'] {
    background: ${({ theme }) => theme.color.damsonWash};
    box-shadow: inset 0 0 0 2px ${({ theme }) => theme.color.damson};
    border-color: ${({ theme }) => theme.color.damson};
  }
`
const Pull = styled.div`
  width: 130px;
`
const Extras = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.m};
  align-items: end;
  > label {
    min-height: 34px;
  }
  .gap {
    flex: 1;
  }
  .steps {
    display: flex;
    gap: 6px;
  }
`
