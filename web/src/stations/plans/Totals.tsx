import type { PlanFigures } from '@tender/contract'
import type { ReactNode } from 'react'
import styled from 'styled-components'
import { chance, counted, duration, grams, money } from '../../format/numbers'

/** A plan in five numbers. */
export function Totals({ figures, swapLayers }: { figures: PlanFigures; swapLayers?: number }) {
  return (
    <Row aria-label="Totals">
      <Total value={grams(figures.massG)}>{grams(figures.wasteG)} thrown away</Total>
      <Total value={money(figures.cost)}>money</Total>
      <Total value={duration(figures.timeS)}>
        {figures.swaps > 0 ? `${duration(figures.swapTimeS)} swapping` : 'printing'}
      </Total>
      <Total value={String(figures.swaps)}>
        {figures.swaps > 0 && swapLayers !== undefined
          ? `swaps on ${counted(swapLayers, 'height')}`
          : 'swaps'}
      </Total>
      {figures.pTender !== null && <Total value={chance(figures.pTender)}>comes off clean</Total>}
    </Row>
  )
}

function Total({ value, children }: { value: string; children: ReactNode }) {
  return (
    <div>
      <dd>{value}</dd>
      <dt>{children}</dt>
    </div>
  )
}

const Row = styled.dl`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 24px;
  margin: 0;
  div {
    display: flex;
    flex-direction: column;
  }
  dd {
    margin: 0;
    font: 500 ${({ theme }) => `${theme.size.card} ${theme.font.mono}`};
    letter-spacing: -0.02em;
    white-space: nowrap;
  }
  dt {
    font-size: ${({ theme }) => theme.size.small};
    color: ${({ theme }) => theme.color.soft};
    white-space: nowrap;
  }
`
