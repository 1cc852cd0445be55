import styled from 'styled-components'
import { Sheet } from './Sheet'

/** Cards of a list, as many beside each other as fit. */
export const Cards = styled.div<{ $widthPx?: number }>`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(${({ $widthPx = 300 }) => $widthPx}px, 100%), 1fr));
  gap: ${({ theme }) => theme.space.m};
`
/** One of them; the link in its title reaches over all of it. */
export const Card = styled(Sheet)`
  position: relative;
  h2 {
    font: 500 ${({ theme }) => `${theme.size.card} ${theme.font.serif}`};
    margin-bottom: ${({ theme }) => theme.space.xs};
  }
  h2 a {
    text-decoration: none;
  }
  h2 a::after {
    content: '';
    position: absolute;
    inset: 0;
    border-radius: ${({ theme }) => theme.radius.m};
  }
  &:hover {
    border-color: ${({ theme }) => theme.color.damson};
  }
  p {
    margin-bottom: ${({ theme }) => theme.space.sm};
  }
`
