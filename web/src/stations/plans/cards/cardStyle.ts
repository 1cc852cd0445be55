import styled from 'styled-components'

/** What a card is about, and what it is now. */
export const Head = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  > span {
    font-size: ${({ theme }) => theme.size.heading};
  }
`
/** One way among several, with what it means. */
export const Way = styled.button`
  display: grid;
  gap: ${({ theme }) => theme.space.hair};
  text-align: left;
  font: ${({ theme }) => `${theme.size.note} ${theme.font.sans}`};
  color: ${({ theme }) => theme.color.ink};
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.s};
  padding: ${({ theme }) => `${theme.space.s} ${theme.space.md}`};
  cursor: pointer;
  b {
    display: flex;
    gap: ${({ theme }) => theme.space.s};
    align-items: center;
    font-weight: 600;
  }
  &[aria-pressed='true'] {
    background: ${({ theme }) => theme.color.damsonWash};
    border-color: ${({ theme }) => theme.color.damson};
  }
  &:hover {
    border-color: ${({ theme }) => theme.color.damson};
  }
`
