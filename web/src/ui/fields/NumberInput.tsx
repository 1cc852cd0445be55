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
        <Input
          onKeyDown={(event) => {
            const input = event.currentTarget
            if (event.ctrlKey || event.metaKey || event.altKey) return
            if (event.key === ',') typeInto(input, '.')
            else if (unit === 'mm' && (event.key === '"' || event.key.toLowerCase() === 'i')) {
              const inches = typedNumber(input.value)
              if (Number.isFinite(inches)) {
                const mm = Number((inches * MM_PER_INCH).toFixed(4))
                onChange(Math.min(max ?? Infinity, Math.max(min ?? -Infinity, mm)))
              }
            } else if (!(unit === 'mm' && event.key.toLowerCase() === 'n')) return
            event.preventDefault()
            event.stopPropagation()
          }}
          onPaste={(event) => {
            const text = event.clipboardData.getData('text').trim()
            if (!/^[+-]?\d+,\d+$/.test(text)) return
            event.preventDefault()
            typeInto(event.currentTarget, text.replace(',', '.'))
          }}
        />
        {unit && <span className="unit">{unit}</span>}
      </NumberBox>
      {description && <Text slot="description">{description}</Text>}
      <FieldError>{error}</FieldError>
    </StyledNumber>
  )
}
