import styled from 'styled-components'
import { length } from '../theme/measures'

/** A card of paper. */
export const Sheet = styled.section`
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.m};
  padding: ${({ theme }) => `${theme.space.m} ${theme.space.l}`};
  min-width: 0;
`
export const SheetTitle = styled.h2`
  font: 600 ${({ theme }) => `${theme.size.small} ${theme.font.sans}`};
  color: ${({ theme }) => theme.color.soft};
  margin-bottom: ${({ theme }) => theme.space.xs};
`
/** What a view says first, in words. */
export const Sentence = styled.p`
  font: 400 ${({ theme }) => `${theme.size.sentence}/1.5 ${theme.font.serif}`};
  text-wrap: pretty;
`
export const Soft = styled.span`
  color: ${({ theme }) => theme.color.soft};
`
export const SoftLine = styled.p`
  color: ${({ theme }) => theme.color.soft};
  font-size: ${({ theme }) => theme.size.small};
`
export const Num = styled.span`
  font-family: ${({ theme }) => theme.font.mono};
  font-variant-numeric: tabular-nums;
  font-size: 0.93em;
  letter-spacing: -0.01em;
`
export const Key = styled.kbd`
  font: ${({ theme }) => `${theme.size.tiny} ${theme.font.mono}`};
  border: ${({ theme }) => theme.border.line};
  border-bottom-width: ${length.rule};
  border-radius: ${({ theme }) => theme.radius.xs};
  padding: ${({ theme }) => `${theme.space.hair} ${theme.space.xs}`};
  color: ${({ theme }) => theme.color.soft};
  background: ${({ theme }) => theme.color.sheet};
`
export const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  th {
    text-align: left;
    font: 500 ${({ theme }) => `${theme.size.small} ${theme.font.sans}`};
    color: ${({ theme }) => theme.color.soft};
    padding: ${({ theme }) => `${theme.space.sm} ${theme.space.md} ${theme.space.sm} 0`};
  }
  td {
    border-top: ${({ theme }) => theme.border.faint};
    padding: ${({ theme }) => `${theme.space.s} ${theme.space.md} ${theme.space.s} 0`};
    vertical-align: middle;
  }
  .right {
    text-align: right;
    font-family: ${({ theme }) => theme.font.mono};
    font-size: ${({ theme }) => theme.size.note};
  }
  th.right {
    font: 500 ${({ theme }) => `${theme.size.small} ${theme.font.sans}`};
  }
  .right + :not(.right) {
    padding-left: ${({ theme }) => theme.space.m};
  }
`
/** Holds what may be wider than the screen, and moves it sideways; what is unseen in it stays in it, too. */
export const Sideways = styled.div`
  position: relative;
  overflow-x: auto;
`
/** Only for assistive technology. */
export const Unseen = styled.span`
  position: absolute;
  width: ${length.hair};
  height: ${length.hair};
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
`
