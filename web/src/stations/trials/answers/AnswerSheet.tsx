import styled from 'styled-components'
import { Sheet } from '../../../ui/Sheet'
import { space } from '../../../theme/measures'

/** Where an answer stands; a change is read out once. */
export const AnswerSheet = styled(Sheet).attrs({ 'aria-live': 'polite' })`
  display: grid;
  gap: ${({ theme }) => theme.space.sm};
  align-content: start;
  details {
    margin-top: ${({ theme }) => theme.space.s};
    font-size: ${({ theme }) => theme.size.note};
  }
  summary {
    cursor: pointer;
    color: ${({ theme }) => theme.color.soft};
  }
`

/** Why the answer is not as sharp as it could be, and what would help. */
export function Missing({ sentences }: { sentences: readonly string[] }) {
  return sentences.map((sentence) => (
    <Mind key={sentence}>
      <svg width="14" height="14" aria-hidden>
        <path d="M7 1l6 12H1z" fill="currentColor" />
      </svg>
      <span>{sentence}</span>
    </Mind>
  ))
}
const Mind = styled.p`
  display: grid;
  grid-template-columns: ${space.l} 1fr;
  gap: ${({ theme }) => theme.space.s};
  align-items: start;
  font-size: ${({ theme }) => theme.size.note};
  svg {
    color: ${({ theme }) => theme.color.clay};
    margin-top: ${({ theme }) => theme.space.hair};
  }
`
