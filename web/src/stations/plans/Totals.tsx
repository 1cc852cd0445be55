import type { PlanFigures } from '@tender/contract'
import type { CorrectedGrams } from '@tender/core/takeOff'
import type { ReactNode } from 'react'
import styled from 'styled-components'
import { chance, counted, duration, grams, money, range } from '../../format/numbers'
import { space } from '../../theme/measures'

/** A plan in five numbers. */
export function Totals({
  figures,
  swapLayers,
  weighed,
}: {
  figures: PlanFigures
  swapLayers?: number
  /** The same grams by what was weighed of other prints; null when nothing was. */
  weighed?: CorrectedGrams | null
}) {
  return (
    <Row aria-label="Totals">
      <Total value={grams(figures.massG)}>
        {weighed
          ? `${grams(weighed.g.median)} by the scale (${range(weighed.g.low, weighed.g.high)})`
          : `${figures.wasteG > 0 ? grams(figures.wasteG) : 'nothing'} thrown away`}
      </Total>
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
  gap: ${space.xs} ${space.l};
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
