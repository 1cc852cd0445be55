import { FieldError, Input, Label, Text, TextArea as AriaTextArea, TextField } from 'react-aria-components'
import styled from 'styled-components'
import { box, column, type Said } from './style'

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

/** One line of text. */
export function TextInput({
  label,
  description,
  error,
  value,
  onChange,
  autoFocus,
  type,
}: Said & { value: string; onChange: (value: string) => void; autoFocus?: boolean; type?: string }) {
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
}: Said & { value: string; onChange: (value: string) => void; rows?: number }) {
  return (
    <StyledTextField value={value} onChange={onChange} isInvalid={Boolean(error)}>
      <Label>{label}</Label>
      <StyledArea rows={rows} spellCheck={false} />
      {description && <Text slot="description">{description}</Text>}
      <FieldError>{error}</FieldError>
    </StyledTextField>
  )
}
