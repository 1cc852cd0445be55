import styled from 'styled-components'

/** What is no use on a printed sheet. */
export const NotOnPaper = styled.div`
  @media print {
    display: none;
  }
`
