import { ChevronDown } from 'lucide-react'
import type { ReactNode } from 'react'
import { useState } from 'react'
import {
  Button,
  FieldError,
  Group,
  Input,
  Label,
  ListBox,
  ListBoxItem,
  NumberField,
  Popover,
  Select,
  SelectValue,
  Switch,
  Text,
  TextArea as AriaTextArea,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
} from 'react-aria-components'
import styled, { css } from 'styled-components'

const column = css`
  display: grid;
  gap: ${({ theme }) => theme.space.xs};
  align-content: start;
  min-width: 0;
  label,
  .label,
  .react-aria-Label {
    font-size: ${({ theme }) => theme.size.small};
    color: ${({ theme }) => theme.color.soft};
  }
  [slot='description'] {
    font-size: ${({ theme }) => theme.size.small};
    color: ${({ theme }) => theme.color.soft};
  }
  [slot='errorMessage'] {
    font-size: ${({ theme }) => theme.size.small};
    color: ${({ theme }) => theme.color.wine};
  }
`
const box = css`
  font: ${({ theme }) => `${theme.size.body} ${theme.font.sans}`};
  color: ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.s};
  min-height: 34px;
  padding: ${({ theme }) => `${theme.space.xs} ${theme.space.md}`};
  width: 100%;
  min-width: 0;
  &[data-focused],
  &[data-focus-visible],
  &[data-focus-within] {
    ${({ theme }) => theme.focus}
    outline-offset: 0;
  }
  &[data-invalid] {
    border-color: ${({ theme }) => theme.color.wine};
  }
`
const StyledTextField = styled(TextField)`
  ${column}
`
const StyledInput = styled(Input)`
  ${box}
`
const StyledArea = styled(AriaTextArea)`
  ${box}
  font: ${({ theme }) => `${theme.size.small}/1.5 ${theme.font.mono}`};
  resize: vertical;
`
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
    font: ${({ theme }) => `13.5px ${theme.font.mono}`};
  }
  .unit {
    padding-right: ${({ theme }) => theme.space.md};
    color: ${({ theme }) => theme.color.soft};
    font-size: ${({ theme }) => theme.size.small};
    white-space: nowrap;
  }
`

type Common = { label: string; description?: string; error?: string }

export function TextInput({
  label,
  description,
  error,
  value,
  onChange,
  autoFocus,
  type,
}: Common & { value: string; onChange: (value: string) => void; autoFocus?: boolean; type?: string }) {
  return (
    <StyledTextField
      value={value}
      onChange={onChange}
      isInvalid={Boolean(error)}
      autoFocus={autoFocus}
      type={type}
    >
      <Label>{label}</Label>
      <StyledInput />
      {description && <Text slot="description">{description}</Text>}
      <FieldError>{error}</FieldError>
    </StyledTextField>
  )
}

/** Several lines of text, as they are. */
export function TextArea({
  label,
  description,
  error,
  value,
  onChange,
  rows = 6,
}: Common & { value: string; onChange: (value: string) => void; rows?: number }) {
  return (
    <StyledTextField value={value} onChange={onChange} isInvalid={Boolean(error)}>
      <Label>{label}</Label>
      <StyledArea rows={rows} spellCheck={false} />
      {description && <Text slot="description">{description}</Text>}
      <FieldError>{error}</FieldError>
    </StyledTextField>
  )
}

export type NumberInputProps = Common & {
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
 * A number with its unit; arrow keys step, whatever is out of range is pulled to the nearest value that works. A comma is a point, and a
 * length in inches becomes millimetres when it is ended with the mark of inches, " or in.
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

type AngleFrom = 'vertical' | 'bed'

/** From where the maker counts angles; remembered in the browser. */
export function useAngleConvention(): readonly [AngleFrom, (from: AngleFrom) => void] {
  const [from, setFrom] = useState<AngleFrom>(() =>
    localStorage.getItem('tender.angles') === 'bed' ? 'bed' : 'vertical',
  )
  const choose = (next: AngleFrom) => {
    localStorage.setItem('tender.angles', next)
    setFrom(next)
  }
  return [from, choose]
}

export function AngleConvention({
  value,
  onChange,
}: {
  value: AngleFrom
  onChange: (from: AngleFrom) => void
}) {
  return (
    <Segments
      label="Angle counted from"
      hideLabel
      value={value}
      onChange={onChange}
      options={[
        { value: 'vertical', label: 'from vertical' },
        { value: 'bed', label: 'from bed' },
      ]}
    />
  )
}

/** An overhang angle, typed in whichever way the maker thinks; the other way is always shown. Stored from vertical. */
export function AngleInput({
  label,
  value,
  onChange,
  min = 0,
  max = 89,
  autoFocus,
}: {
  label: string
  value: number
  onChange: (value: number) => void
  min?: number
  max?: number
  autoFocus?: boolean
}) {
  const [from, setFrom] = useAngleConvention()
  const asShown = (angle: number) => (from === 'vertical' ? angle : 90 - angle)
  return (
    <AngleRow>
      <NumberInput
        label={label}
        value={asShown(value)}
        onChange={(shown) => onChange(asShown(shown))}
        min={Math.min(asShown(min), asShown(max))}
        max={Math.max(asShown(min), asShown(max))}
        step={1}
        unit="°"
        autoFocus={autoFocus}
        description={`${Math.round(value)}° from vertical, ${Math.round(90 - value)}° from bed`}
      />
      <AngleConvention value={from} onChange={setFrom} />
    </AngleRow>
  )
}

const AngleRow = styled.div`
  display: grid;
  grid-template-columns: minmax(80px, 1fr) auto;
  gap: ${({ theme }) => theme.space.s};
  align-items: center;
`

export type Option<T extends string> = { readonly value: T; readonly label: string; readonly swatch?: string }

/** One of a few, all in view. */
export function Segments<T extends string>({
  label,
  hideLabel,
  value,
  onChange,
  options,
}: {
  label: string
  hideLabel?: boolean
  value: T
  onChange: (value: T) => void
  options: readonly Option<T>[]
}) {
  return (
    <SegmentField>
      {!hideLabel && (
        <span className="label" aria-hidden>
          {label}
        </span>
      )}
      <SegmentRow
        aria-label={label}
        selectionMode="single"
        disallowEmptySelection
        selectedKeys={[value]}
        onSelectionChange={(keys) => onChange([...keys][0] as T)}
      >
        {options.map((option) => (
          <ToggleButton key={option.value} id={option.value}>
            {option.label}
          </ToggleButton>
        ))}
      </SegmentRow>
    </SegmentField>
  )
}

const SegmentField = styled.div`
  ${column}
`
const SegmentRow = styled(ToggleButtonGroup)`
  display: inline-flex;
  width: fit-content;
  max-width: 100%;
  min-height: 34px;
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.s};
  background: ${({ theme }) => theme.color.sheet};
  button {
    border: 0;
    background: none;
    color: ${({ theme }) => theme.color.soft};
    font: ${({ theme }) => `${theme.size.note} ${theme.font.sans}`};
    padding: ${({ theme }) => `${theme.space.sm} ${theme.space.m}`};
    cursor: pointer;
    border-radius: ${({ theme }) => theme.radius.s};
  }
  button[data-selected] {
    background: ${({ theme }) => theme.color.ink};
    color: ${({ theme }) => theme.color.sheet};
  }
  button[data-focus-visible] {
    ${({ theme }) => theme.focus}
  }
`

/** One of many, in a list that opens. */
export function Choice<T extends string>({
  label,
  value,
  onChange,
  options,
  error,
  placeholder,
}: Common & {
  value: T | null
  onChange: (value: T) => void
  options: readonly Option<T>[]
  placeholder?: string
}) {
  return (
    <StyledSelect
      value={value}
      onChange={(key) => key !== null && onChange(key as T)}
      isInvalid={Boolean(error)}
      placeholder={placeholder ?? 'Choose'}
    >
      <Label>{label}</Label>
      <ChoiceButton>
        <SelectValue />
        <ChevronDown size={15} aria-hidden />
      </ChoiceButton>
      <FieldError>{error}</FieldError>
      <ChoicePopover>
        <ListBox items={options.map((option) => ({ ...option, id: option.value }))}>
          {(option) => (
            <ListBoxItem id={option.value} textValue={option.label}>
              {option.swatch && <Swatch style={{ background: option.swatch }} />}
              {option.label}
            </ListBoxItem>
          )}
        </ListBox>
      </ChoicePopover>
    </StyledSelect>
  )
}

const StyledSelect = styled(Select)`
  ${column}
` as unknown as typeof Select
const ChoiceButton = styled(Button)`
  ${box}
  display: flex;
  justify-content: space-between;
  align-items: center;
  text-align: left;
  cursor: pointer;
  .react-aria-SelectValue {
    display: flex;
    align-items: center;
    gap: ${({ theme }) => theme.space.s};
    min-width: 0;
  }
`
const ChoicePopover = styled(Popover)`
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.s};
  box-shadow: ${({ theme }) => theme.floats};
  min-width: var(--trigger-width);
  max-height: 320px;
  overflow: auto;
  padding: ${({ theme }) => theme.space.xs};
  [role='option'] {
    padding: ${({ theme }) => `${theme.space.sm} ${theme.space.md}`};
    border-radius: ${({ theme }) => theme.radius.xs};
    display: flex;
    align-items: center;
    gap: ${({ theme }) => theme.space.s};
    cursor: pointer;
    outline: 0;
  }
  [role='option'][data-focused] {
    background: ${({ theme }) => theme.color.damsonWash};
  }
  [role='option'][data-selected] {
    font-weight: 600;
  }
`
export const Swatch = styled.span`
  display: inline-block;
  width: 13px;
  height: 13px;
  flex: none;
  border-radius: ${({ theme }) => theme.radius.xs};
  border: ${({ theme }) => theme.border.line};
`

export function Toggle({
  children,
  value,
  onChange,
  isDisabled,
}: {
  children: ReactNode
  value: boolean
  onChange: (value: boolean) => void
  isDisabled?: boolean
}) {
  return (
    <StyledSwitch isSelected={value} onChange={onChange} isDisabled={isDisabled}>
      <span className="track" aria-hidden />
      {children}
    </StyledSwitch>
  )
}

const StyledSwitch = styled(Switch)`
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.s};
  cursor: pointer;
  .track {
    width: 34px;
    height: 20px;
    flex: none;
    border-radius: ${({ theme }) => theme.radius.round};
    border: 1px solid ${({ theme }) => theme.color.soft};
    position: relative;
  }
  .track::after {
    content: '';
    position: absolute;
    left: 3px;
    top: 3px;
    width: 12px;
    height: 12px;
    border-radius: ${({ theme }) => theme.radius.round};
    background: ${({ theme }) => theme.color.soft};
    transition: left 120ms;
  }
  &[data-disabled] {
    color: ${({ theme }) => theme.color.soft};
    cursor: default;
  }
  &[data-selected] .track {
    background: ${({ theme }) => theme.color.damson};
    border-color: ${({ theme }) => theme.color.damson};
  }
  &[data-selected] .track::after {
    left: 17px;
    background: ${({ theme }) => theme.color.onDamson};
  }
  &[data-focus-visible] .track {
    ${({ theme }) => theme.focus}
  }
`
