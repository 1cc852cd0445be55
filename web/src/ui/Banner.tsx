import styled from 'styled-components'
import { length } from '../theme/measures'

/** A strip over a page that says what cannot wait. */
export const Banner = styled.div`
  padding: ${({ theme }) => `${theme.space.s} ${theme.space.m}`};
  border-left: ${length.edge} solid ${({ theme }) => theme.color.damson};
  background: ${({ theme }) => theme.color.damsonWash};
  border-radius: ${({ theme }) => theme.radius.s};
`
