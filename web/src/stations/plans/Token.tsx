import { filamentOf } from '@tender/core/bench'
import type { Evidence, NumberDecision, SpokenFor } from '@tender/core/decide'
import { DECISION_RANGES } from '@tender/core/decide'
import { useState, type ReactNode } from 'react'
import { Button, DialogTrigger, Popover } from 'react-aria-components'
import styled from 'styled-components'
import { CHOICES, FILAMENT_ROLES, NUMBERS, type ChoiceDecision, type FilamentDecision } from './catalogue'
import { ChoiceCard } from './cards/ChoiceCard'
import { FilamentCard } from './cards/FilamentCard'
import { NumberCard } from './cards/NumberCard'
import { PrinterCard } from './cards/PrinterCard'
import { usePlanSetting } from './PlanContext'
import { at, length, space } from '../../theme/measures'
import { useMedia } from '../../theme/useMedia'

const SOURCES = {
  measured: 'measured',
  transferred: 'carried over from other settings',
  guess: 'a starting guess',
} as const

type Followed = {
  /** The mark right behind it, which stays on its row: a full stop alone would look lost. */
  then?: '.' | ',' | ';'
}

/**
 * A number in the letter. Arrow keys step it, Enter opens its card, Backspace takes it back to the evidence.
 */
export function NumberToken({ name, then }: Followed & { name: NumberDecision }) {
  const { document, decide } = usePlanSetting()
  const value = document.decisions[name]
  const [low, high, step] = DECISION_RANGES[name]
  const evidence = document.evidence[name as SpokenFor]
  const own = evidence !== undefined && evidence.value !== value
  const { label, show } = NUMBERS[name]
  const onKeyDown = (event: { key: string; preventDefault: () => void }) => {
    const direction = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0
    if (direction !== 0)
      decide({ [name]: Number(Math.min(high, Math.max(low, value + direction * step)).toFixed(4)) })
    else if (event.key === 'Backspace' && evidence) decide({ [name]: evidence.value })
    else return
    event.preventDefault()
  }
  return (
    <TokenShell
      label={`${label}: ${show(value)}${evidence ? `, ${own ? 'your own wish' : SOURCES[evidence.source]}` : ''}`}
      shown={show(value)}
      then={then}
      source={own ? undefined : evidence?.source}
      onKeyDown={onKeyDown}
    >
      <NumberCard name={name} />
    </TokenShell>
  )
}

export function ChoiceToken({ name, then }: Followed & { name: ChoiceDecision }) {
  const { document } = usePlanSetting()
  const { label, options } = CHOICES[name]
  const word = (options as readonly { value: unknown; word: string }[]).find(
    (option) => option.value === document.decisions[name],
  )!.word
  return (
    <TokenShell label={`${label}: ${word}`} shown={word} then={then}>
      <ChoiceCard name={name} />
    </TokenShell>
  )
}

export function FilamentToken({ name, then }: Followed & { name: FilamentDecision }) {
  const { document } = usePlanSetting()
  const filament = filamentOf(document.filaments, document.decisions[name]).name
  return (
    <TokenShell label={`${FILAMENT_ROLES[name]}: ${filament}`} shown={filament} then={then}>
      <FilamentCard name={name} />
    </TokenShell>
  )
}

export function PrinterToken({ then }: Followed) {
  const { document } = usePlanSetting()
  return (
    <TokenShell label={`Printer: ${document.printer.name}`} shown={document.printer.name} then={then}>
      <PrinterCard />
    </TokenShell>
  )
}

/** Anything in the letter with a card behind it. */
export function CardToken({
  label,
  face,
  then,
  onKeyDown,
  children,
}: Followed & {
  label: string
  face: ReactNode
  onKeyDown?: (event: { key: string; preventDefault: () => void }) => void
  children: ReactNode
}) {
  return (
    <TokenShell label={label} shown={face} then={then} onKeyDown={onKeyDown}>
      {children}
    </TokenShell>
  )
}

function TokenShell({
  label,
  shown,
  source,
  onKeyDown,
  then,
  children,
}: Followed & {
  label: string
  shown: ReactNode
  source?: Evidence['source']
  onKeyDown?: (event: { key: string; preventDefault: () => void }) => void
  children: ReactNode
}) {
  const [open, setOpen] = useState(false)
  // Beside it there is no room on a phone.
  const placement = useMedia(at.phone) ? 'bottom' : 'right top'
  return (
    <DialogTrigger isOpen={open} onOpenChange={setOpen}>
      <Kept>
        <Face
          aria-label={label}
          onKeyDown={(event) => {
            // What it does not take for itself is a key of the page.
            event.continuePropagation()
            onKeyDown?.(event)
          }}
        >
          {source && <Dot data-source={source} aria-hidden />}
          {shown}
        </Face>
        {then}
      </Kept>
      <Card placement={placement} offset={10} aria-label={label}>
        {/* Fields keep Escape to themselves; here it always closes the card. */}
        <Body onKeyDownCapture={(event) => event.key === 'Escape' && setOpen(false)}>{children}</Body>
      </Card>
    </DialogTrigger>
  )
}

const Kept = styled.span`
  white-space: nowrap;
`
const Face = styled(Button)`
  font: 0.84em ${({ theme }) => theme.font.mono};
  background: ${({ theme }) => theme.color.damsonWash};
  color: ${({ theme }) => theme.color.damson};
  border: 0;
  border-bottom: ${length.rule} solid transparent;
  border-radius: ${({ theme }) => theme.radius.xs};
  padding: ${({ theme }) => `${theme.space.hair} ${theme.space.sm}`};
  white-space: nowrap;
  cursor: pointer;
  &[data-hovered],
  &[aria-expanded='true'] {
    border-bottom-color: ${({ theme }) => theme.color.damson};
  }
  &[data-focus-visible] {
    ${({ theme }) => theme.focus}
    /* Farther out it would touch the words beside it. */
    outline-offset: -${length.hair};
  }
`
const Dot = styled.i`
  display: inline-block;
  width: ${space.s};
  height: ${space.s};
  border-radius: 50%;
  border: ${length.rule} solid ${({ theme }) => theme.color.damson};
  margin-right: ${({ theme }) => theme.space.xs};
  vertical-align: ${length.hair};
  forced-color-adjust: none;
  &[data-source='measured'] {
    background: ${({ theme }) => theme.color.damson};
  }
  &[data-source='transferred'] {
    background: linear-gradient(90deg, ${({ theme }) => theme.color.damson} 50%, transparent 50%);
  }
`
const Card = styled(Popover)`
  width: ${length.xl};
  max-width: calc(100vw - ${space.xl});
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.m};
  box-shadow: ${({ theme }) => theme.floats};
  font-size: ${({ theme }) => theme.size.note};
  overflow: auto;
  outline: 0;
`
const Body = styled.div`
  padding: ${({ theme }) => `${theme.space.m} ${theme.space.l}`};
  display: grid;
  gap: ${({ theme }) => theme.space.s};
`
