import styled from 'styled-components'
import { length } from '../theme/measures'

/** One of a few, or none: pressed once more it is taken back. */
export function Chips<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string
  value: T | null
  options: readonly T[]
  onChange: (value: T | null) => void
}) {
  return (
    <Group role="group" aria-label={label}>
      <span aria-hidden>{label}</span>
      <div>
        {options.map((option) => (
          <button
            key={option}
            type="button"
            aria-pressed={option === value}
            onClick={() => onChange(option === value ? null : option)}
          >
            {option}
          </button>
        ))}
      </div>
    </Group>
  )
}

const Group = styled.div`
  display: grid;
  gap: ${({ theme }) => theme.space.hair};
  > span {
    font-size: ${({ theme }) => theme.size.small};
    color: ${({ theme }) => theme.color.soft};
  }
  > div {
    display: flex;
    flex-wrap: wrap;
    gap: ${({ theme }) => theme.space.sm};
  }
  button {
    font: ${({ theme }) => `${theme.size.note} ${theme.font.sans}`};
    color: ${({ theme }) => theme.color.ink};
    background: ${({ theme }) => theme.color.sheet};
    border: ${({ theme }) => theme.border.line};
    border-radius: ${({ theme }) => theme.radius.round};
    min-height: ${length.control};
    padding: ${({ theme }) => `${theme.space.xs} ${theme.space.m}`};
    cursor: pointer;
  }
  button[aria-pressed='true'] {
    background: ${({ theme }) => theme.color.damsonWash};
    border-color: ${({ theme }) => theme.color.damson};
    box-shadow: inset 0 0 0 ${length.hair} ${({ theme }) => theme.color.damson};
  }
`
