import styled from 'styled-components'

/** A stroke as the chart draws it. */
export const Stroke = ({ color, dashes }: { color: string; dashes?: string }) => (
  <svg width="26" height="8">
    <path d="M1 4H25" stroke={color} strokeWidth="2" strokeDasharray={dashes} />
  </svg>
)
/** What the strokes of a chart stand for. */
export const Legend = styled.div`
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.sm};
  font-size: ${({ theme }) => theme.size.small};
  color: ${({ theme }) => theme.color.soft};
  margin-bottom: ${({ theme }) => theme.space.sm};
  svg:not(:first-child) {
    margin-left: ${({ theme }) => theme.space.m};
  }
`
