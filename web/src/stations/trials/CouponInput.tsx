import type { ReadingInput, StepPhoto, StepReading } from '@tender/contract'
import { couponGrid, FINISH_GRADES, stepsOf, type Coupon, type Grade, type Step } from '@tender/core/trial'
import { useRef, type KeyboardEvent, type ReactNode } from 'react'
import styled from 'styled-components'
import { Button } from '../../ui/Button'
import { NumberInput, TextInput, Toggle } from '../../ui/fields'
import { GradeRow } from '../../ui/GradeRow'
import { Sheet, SheetTitle, Sideways, SoftLine } from '../../ui/Sheet'
import { ArmDrawing, BridgeDrawing, StripDrawing, TileDrawing, ToothDrawing } from './StepDrawings'
import { StepPhotos } from './StepPhotos'
import { describeStep, GRADE_ASKS, GRADE_WORDS, KINDS, rowName, stepName, type SwapNames } from './trialKinds'
import { NOTHING_READ } from './useReadings'
import { at, length, space } from '../../theme/measures'

const FINISH_KEYS = ['q', 'w', 'e', 'r', 't']
const NOTES: Partial<Record<Coupon['kind'], string>> = {
  gap: 'Round mark: how it came off. Square mark: its face. Gaps are drawn much larger than they are.',
  purge: 'Look at the far end of each strip: there the volume on its mark has gone through.',
  offset: 'Figures are hundredths of a millimetre; shifts are drawn much larger. Two pairs alike? Name both.',
}

type Props = {
  trialId: string
  coupon: Coupon
  readings: readonly StepReading[]
  photos: readonly StepPhoto[]
  names: SwapNames
  colours: { readonly a: string; readonly b: string }
  selected: string
  onSelect: (step: string) => void
  onRead: (step: string, change: Partial<ReadingInput>) => void
}

/** The coupon as it lies on the bench. Arrow keys move over it, one key gives a grade. */
export function CouponInput({
  trialId,
  coupon,
  readings,
  photos,
  names,
  colours,
  selected,
  onSelect,
  onRead,
}: Props) {
  const { kind } = coupon
  const steps = stepsOf(coupon)
  const grid = couponGrid(coupon)
  const columns = grid.columns.length
  const byStep = new Map(readings.map((reading) => [reading.step, reading]))
  const buttons = useRef(new Map<string, HTMLButtonElement>())
  const at = Math.max(
    0,
    steps.findIndex((step) => step.key === selected),
  )
  const current = steps[at]
  const reading = byStep.get(current.key)
  const { value, place } = stepName(current, names)

  const go = (to: number) => {
    const step = steps[Math.max(0, Math.min(steps.length - 1, to))]
    onSelect(step.key)
    buttons.current.get(step.key)?.focus()
  }
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return
    const key = event.key.toLowerCase()
    const moves: Record<string, number> = {
      arrowleft: -1,
      arrowright: 1,
      arrowup: -columns,
      arrowdown: columns,
    }
    const figure = Number(key)
    const finish = FINISH_KEYS.indexOf(key)
    if (key in moves) {
      if (at + moves[key] >= 0 && at + moves[key] < steps.length) go(at + moves[key])
    } else if (key === 'home') go(0)
    else if (key === 'end') go(steps.length - 1)
    else if (figure >= 1 && figure <= 5)
      onRead(current.key, kind === 'gap' ? { release: figure as Grade } : { grade: figure as Grade })
    else if (kind === 'gap' && finish >= 0) onRead(current.key, { finish: (finish + 1) as Grade })
    else if (key === 'x') onRead(current.key, { leftOut: !reading?.leftOut })
    else if (key === 'backspace' || key === 'delete') onRead(current.key, NOTHING_READ)
    else return
    event.preventDefault()
  }
  const drawingOf = (step: Step): ReactNode => {
    const own = byStep.get(step.key)
    switch (step.kind) {
      case 'fan':
        return <ArmDrawing step={step} reading={own} />
      case 'span':
        return <BridgeDrawing step={step} reading={own} longest={Math.max(...grid.columns)} />
      case 'gap':
        return <TileDrawing step={step} reading={own} />
      case 'purge':
        return <StripDrawing step={step} reading={own} colours={colours} />
      case 'offset':
        return (
          <ToothDrawing step={step} reading={own} largest={Math.max(0.01, ...grid.columns.map(Math.abs))} />
        )
    }
  }

  return (
    <Frame aria-label="The coupon">
      <SheetTitle>{KINDS[kind].asks}</SheetTitle>
      <Scroll onKeyDown={onKeyDown}>
        {grid.rows.map((row, r) => (
          <Row key={row}>
            {(grid.rows.length > 1 || kind === 'gap') && <RowName>{rowName(kind, row, names)}</RowName>}
            <Steps
              role="group"
              aria-label={groupName(kind, rowName(kind, row, names))}
              style={{
                gridTemplateColumns: `repeat(${columns}, minmax(${kind === 'gap' ? `${length.touch}, ${length.xs}` : `${length.control}, ${length.xs}`}))`,
              }}
            >
              {steps.slice(r * columns, (r + 1) * columns).map((step) => (
                <StepButton
                  key={step.key}
                  ref={(node) =>
                    void (node ? buttons.current.set(step.key, node) : buttons.current.delete(step.key))
                  }
                  type="button"
                  tabIndex={step.key === current.key ? 0 : -1}
                  aria-pressed={step.key === current.key}
                  aria-label={describeStep(step, byStep.get(step.key), names)}
                  onClick={() => onSelect(step.key)}
                >
                  {drawingOf(step)}
                  {photos.some((photo) => photo.step === step.key) && <Pictured aria-hidden />}
                </StepButton>
              ))}
            </Steps>
          </Row>
        ))}
      </Scroll>
      {NOTES[kind] && <SoftLine>{NOTES[kind]}</SoftLine>}
      <Grading onKeyDown={onKeyDown}>
        <Which>
          <b>{value}</b>
          <SoftLine>
            {place}
            {current.kind === 'fan' && `, ${90 - current.angleDeg}° from bed`}
          </SoftLine>
          <SoftLine>
            {KINDS[kind].step} {at + 1} of {steps.length}
          </SoftLine>
        </Which>
        <div>
          {kind === 'gap' ? (
            <>
              <GradeRow
                label={GRADE_ASKS.gap}
                words={GRADE_WORDS.gap}
                keys={['1', '2', '3', '4', '5']}
                value={reading?.release ?? null}
                onChange={(release) => onRead(current.key, { release })}
              />
              <GradeRow
                label="How the face looks"
                words={FINISH_GRADES}
                keys={['Q', 'W', 'E', 'R', 'T']}
                value={reading?.finish ?? null}
                onChange={(finish) => onRead(current.key, { finish })}
              />
            </>
          ) : (
            <GradeRow
              label={GRADE_ASKS[kind]}
              words={GRADE_WORDS[kind]}
              keys={['1', '2', '3', '4', '5']}
              value={reading?.grade ?? null}
              onChange={(grade) => onRead(current.key, { grade })}
            />
          )}
          <Extras
            onKeyDown={(event) =>
              (event.target as HTMLElement).tagName === 'INPUT' && event.stopPropagation()
            }
          >
            {kind === 'gap' && (
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
            <Remark>
              <TextInput
                key={current.key}
                label="Note"
                value={reading?.note ?? ''}
                onChange={(note) => onRead(current.key, { note: note.slice(0, 200) })}
              />
            </Remark>
            <Toggle
              value={reading?.leftOut ?? false}
              onChange={(leftOut) => onRead(current.key, { leftOut })}
            >
              Leave it out of the answer
            </Toggle>
            <Button quiet flush onPress={() => onRead(current.key, NOTHING_READ)}>
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
          <StepPhotos trialId={trialId} step={current.key} photos={photos} called={value} />
        </div>
      </Grading>
    </Frame>
  )
}

function groupName(kind: Coupon['kind'], row: string): string {
  if (kind === 'fan') return `Arms facing ${row}`
  if (kind === 'span') return 'Bridges'
  if (kind === 'gap') return `Tiles, ${row}`
  return kind === 'purge' ? `Strips, ${row}` : `Comb ${row}`
}

const Frame = styled(Sheet)`
  display: flex;
  flex-direction: column;
  gap: ${({ theme }) => theme.space.m};
`
const Scroll = styled(Sideways)`
  display: grid;
  gap: ${({ theme }) => theme.space.xs};
  padding: ${({ theme }) => theme.space.xs};
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
  gap: ${({ theme }) => theme.space.xs};
`
const StepButton = styled.button`
  position: relative;
  border: ${length.rule} solid transparent;
  border-radius: ${({ theme }) => theme.radius.s};
  background: none;
  padding: ${({ theme }) => `${theme.space.hair} ${theme.space.hair}`};
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
  grid-template-columns: ${length.s} minmax(0, 1fr);
  gap: ${({ theme }) => theme.space.m};
  border-top: ${({ theme }) => theme.border.faint};
  padding-top: ${({ theme }) => theme.space.m};
  > div:last-child {
    display: grid;
    gap: ${({ theme }) => theme.space.s};
  }
  @media ${at.phone} {
    grid-template-columns: minmax(0, 1fr);
  }
`
const Which = styled.div`
  b {
    font: 500 ${({ theme }) => `${theme.size.heading} ${theme.font.mono}`};
  }
`
const Pull = styled.div`
  width: ${length.s};
`
const Remark = styled.div`
  flex: 1 1 ${length.m};
  max-width: ${length.xl};
`
/** A corner turned down where a picture is attached. */
const Pictured = styled.span`
  position: absolute;
  top: 0;
  right: 0;
  border: ${space.sm} solid transparent;
  border-top-color: ${({ theme }) => theme.color.damson};
  border-right-color: ${({ theme }) => theme.color.damson};
`
const Extras = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => theme.space.m};
  align-items: end;
  > label {
    min-height: ${length.control};
  }
  .gap {
    flex: 1;
  }
  .steps {
    display: flex;
    gap: ${({ theme }) => theme.space.sm};
  }
`
