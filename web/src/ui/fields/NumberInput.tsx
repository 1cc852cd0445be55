import { useEffect, useEffectEvent, useRef } from 'react'
import { FieldError, Group, Input, Label, NumberField, Text } from 'react-aria-components'
import styled from 'styled-components'
import { box, column, type Said } from './style'

const StyledNumber = styled(NumberField)`
  ${column}
`
const NumberBox = styled(Group)`
  ${box}
  display: flex;
  align-items: center;
  padding: 0;
  input {
    flex: 1;
    min-width: 0;
    border: 0;
    outline: 0;
    background: none;
    color: inherit;
    padding: ${({ theme }) => `${theme.space.xs} ${theme.space.md}`};
    font: ${({ theme }) => `${theme.size.note} ${theme.font.mono}`};
  }
  .unit {
    padding-right: ${({ theme }) => theme.space.md};
    color: ${({ theme }) => theme.color.soft};
    font-size: ${({ theme }) => theme.size.small};
    white-space: nowrap;
  }
`

export type NumberInputProps = Said & {
  value: number | null
  onChange: (value: number) => void
  unit?: string
  step?: number
  min?: number
  max?: number
  autoFocus?: boolean
}

const MM_PER_INCH = 25.4

/** What was typed as a number, with a comma or a point. */
const typedNumber = (text: string): number => (text.trim() === '' ? NaN : Number(text.replace(',', '.')))

/** Puts text where the caret is, as if it had been typed. */
function typeInto(input: HTMLInputElement, text: string): void {
  const [from, to] = [input.selectionStart ?? input.value.length, input.selectionEnd ?? input.value.length]
  const value = input.value.slice(0, from) + text + input.value.slice(to)
  // The field listens to what the browser itself would do.
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(input, value)
  input.setSelectionRange(from + text.length, from + text.length)
  input.dispatchEvent(new Event('input', { bubbles: true }))
}

/** A number with a comma in it, or what of one is being typed. */
const WITH_COMMA = /^[+-]?\d*,\d*$/

/**
 * A number with its unit; arrow keys step, whatever is out of range is pulled to the nearest value that
 * works. A comma is a point, and a length in inches becomes millimetres when it is ended with the mark of
 * inches, " or in.
 */
export function NumberInput({
  label,
  description,
  error,
  value,
  onChange,
  unit,
  step,
  min,
  max,
  autoFocus,
}: NumberInputProps) {
  const input = useRef<HTMLInputElement>(null)
  const entering = useEffectEvent((event: InputEvent | ClipboardEvent) => {
    const field = event.currentTarget as HTMLInputElement
    const pasted = 'clipboardData' in event ? event.clipboardData?.getData('text') : null
    const text = (pasted ?? ('data' in event ? event.data : null) ?? '').trim()
    const isMm = unit === 'mm'
    if (WITH_COMMA.test(text)) typeInto(field, text.replace(',', '.'))
    else if (isMm && /^("|in?)$/i.test(text)) {
      const inches = typedNumber(field.value)
      if (Number.isFinite(inches)) {
        const mm = Number((inches * MM_PER_INCH).toFixed(4))
        onChange(Math.min(max ?? Infinity, Math.max(min ?? -Infinity, mm)))
      }
    } else if (!(isMm && /^n$/i.test(text))) return
    event.preventDefault()
    event.stopImmediatePropagation()
  })
  // Before the field itself sees it, which refuses what is no digit. By what goes in, not by keys: those of
  // a phone have no names.
  useEffect(() => {
    const field = input.current
    if (!field) return
    const watched = ['beforeinput', 'paste'] as const
    for (const kind of watched) field.addEventListener(kind, entering, true)
    return () => watched.forEach((kind) => field.removeEventListener(kind, entering, true))
  }, [])
  return (
    <StyledNumber
      value={value ?? NaN}
      onChange={onChange}
      minValue={min}
      maxValue={max}
      step={step}
      isInvalid={Boolean(error)}
      formatOptions={{ maximumFractionDigits: 4, useGrouping: false }}
      autoFocus={autoFocus}
    >
      <Label>{label}</Label>
      <NumberBox>
        <Input ref={input} />
        {unit && <span className="unit">{unit}</span>}
      </NumberBox>
      {description && <Text slot="description">{description}</Text>}
      <FieldError>{error}</FieldError>
    </StyledNumber>
  )
}
