import styled from 'styled-components'

/** Something printed to be read, and what it says beside it; one below the other where there is no room. */
export const RecordColumns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(320px, 1fr);
  gap: ${({ theme }) => theme.space.m};
  align-items: start;
  > div {
    display: grid;
    gap: ${({ theme }) => theme.space.m};
    min-width: 0;
  }
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr);
  }
`
/** How it was printed, beside its title. */
export const Circumstances = styled.div`
  text-align: right;
  font-size: ${({ theme }) => theme.size.note};
  color: ${({ theme }) => theme.color.soft};
  @media (max-width: 640px) {
    text-align: left;
  }
`
/** What the server does not have yet. */
export const Unsaved = styled.span`
  color: ${({ theme }) => theme.color.wine};
`
