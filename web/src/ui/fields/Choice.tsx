import { ChevronDown } from 'lucide-react'
import {
  Button,
  FieldError,
  Label,
  ListBox,
  ListBoxItem,
  Popover,
  Select,
  SelectValue,
} from 'react-aria-components'
import styled from 'styled-components'
import { length, space } from '../../theme/measures'
import type { Option } from './Segments'
import { box, column, type Said } from './style'

/** One of many, in a list that opens. */
export function Choice<T extends string>({
  label,
  value,
  onChange,
  options,
  error,
  placeholder,
}: Said & {
  value: T | null
  onChange: (value: T) => void
  options: readonly Option<T>[]
  placeholder?: string
}) {
  return (
    <StyledSelect
      value={value}
      // A browser that fills fields in may choose the empty one behind the list.
      onChange={(key) => options.some((option) => option.value === key) && onChange(key as T)}
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
  max-height: ${length.xl};
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
  width: ${space.m};
  height: ${space.m};
  flex: none;
  border-radius: ${({ theme }) => theme.radius.xs};
  border: ${({ theme }) => theme.border.line};
  forced-color-adjust: none;
`
