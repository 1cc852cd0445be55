import { ToggleButton, ToggleButtonGroup } from 'react-aria-components'
import styled from 'styled-components'
import { length } from '../../theme/measures'
import { column } from './style'

/** One of what may be chosen, with the colour it is known by where it has one. */
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
  min-height: ${length.control};
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
