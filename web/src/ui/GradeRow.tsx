import type { Grade } from '@tender/core/trial'
import styled from 'styled-components'
import { Key, SoftLine } from './Sheet'
import { length } from '../theme/measures'

/** Five grades in words, each with its key. */
export function GradeRow({
  label,
  words,
  keys,
  value,
  onChange,
}: {
  label: string
  words: readonly string[]
  keys: readonly string[]
  value: Grade | null
  onChange: (grade: Grade) => void
}) {
  return (
    <div role="group" aria-label={label}>
      <SoftLine>{label}</SoftLine>
      <Grades>
        {words.map((word, i) => (
          <GradeButton
            key={word}
            type="button"
            aria-pressed={value === i + 1}
            onClick={() => onChange((i + 1) as Grade)}
          >
            <Key>{keys[i]}</Key>
            <span>{word}</span>
          </GradeButton>
        ))}
      </Grades>
    </div>
  )
}

const Grades = styled.div`
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  gap: ${({ theme }) => theme.space.sm};
  margin-top: ${({ theme }) => theme.space.hair};
`
const GradeButton = styled.button`
  font: ${({ theme }) => `${theme.size.note} ${theme.font.sans}`};
  color: ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.s};
  padding: ${({ theme }) => `${theme.space.sm} ${theme.space.xs}`};
  min-height: ${length.bar};
  display: grid;
  gap: ${({ theme }) => theme.space.hair};
  justify-items: center;
  align-content: center;
  cursor: pointer;
  &[aria-pressed='true'] {
    background: ${({ theme }) => theme.color.damsonWash};
    box-shadow: inset 0 0 0 ${length.rule} ${({ theme }) => theme.color.damson};
    border-color: ${({ theme }) => theme.color.damson};
  }
`
