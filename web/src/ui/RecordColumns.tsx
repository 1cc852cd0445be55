import styled from 'styled-components'
import { at, length } from '../theme/measures'

/** Something printed to be read, and what it says beside it; one below the other where there is no room. */
export const RecordColumns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(${length.xl}, 1fr);
  gap: ${({ theme }) => theme.space.m};
  align-items: start;
  > div {
    display: grid;
    gap: ${({ theme }) => theme.space.m};
    min-width: 0;
  }
  @media ${at.medium} {
    grid-template-columns: minmax(0, 1fr);
  }
`
/** How it was printed, beside its title. */
export const Circumstances = styled.div`
  text-align: right;
  font-size: ${({ theme }) => theme.size.note};
  color: ${({ theme }) => theme.color.soft};
  @media ${at.phone} {
    text-align: left;
  }
`
/** What the server does not have yet. */
export const Unsaved = styled.span`
  color: ${({ theme }) => theme.color.wine};
`
