import { otherConvention } from '@tender/core/units'
import styled, { useTheme } from 'styled-components'

/** What the strokes mean: none within the limit, then the steeper the denser, in both ways of counting. */
export function HachureLegend({ limitDeg }: { limitDeg: number }) {
  const { color } = useTheme()
  const limit = Math.round(limitDeg)
  const half = Math.round((limit + 90) / 2)
  const says = (angle: number) => `${angle}° / ${Math.round(otherConvention(angle))}°`
  return (
    <Legend title="From vertical / from bed">
      {[limit, half, 90].map((angle, i) => (
        <span key={i}>
          <svg width="30" height="14" viewBox="0 0 30 14" aria-hidden>
            <rect width="30" height="14" rx="3" fill={color.part} />
            {i > 0 && (
              <path
                d={Array.from(
                  { length: i === 1 ? 5 : 8 },
                  (_, k) => `M${(k * 30) / (i === 1 ? 5 : 8) + 3} 13l3 -12`,
                ).join('')}
                stroke={STROKE}
                strokeWidth={i === 1 ? 1 : 1.7}
              />
            )}
          </svg>
          {i === 0 ? `up to ${says(angle)}` : says(angle)}
        </span>
      ))}
    </Legend>
  )
}

const STROKE = 'currentColor'

const Legend = styled.div`
  margin-left: auto;
  display: flex;
  flex-wrap: wrap;
  gap: ${({ theme }) => `${theme.space.xs} ${theme.space.m}`};
  font-size: ${({ theme }) => theme.size.small};
  color: ${({ theme }) => theme.color.soft};
  span {
    display: inline-flex;
    gap: ${({ theme }) => theme.space.xs};
    align-items: center;
  }
  svg {
    color: ${({ theme }) => theme.color.ink};
  }
`
