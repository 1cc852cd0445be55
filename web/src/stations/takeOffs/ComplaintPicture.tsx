import type { Complaint } from '@tender/core/takeOff'
import type { ReactNode } from 'react'
import { useTheme } from 'styled-components'

/** What went wrong, from the side: part above, interface and stand below, the trouble in wine. */
export function ComplaintPicture({ of }: { of: Complaint }) {
  const { color } = useTheme()
  const part = (d = 'M6 6H54V20H6z') => <path d={d} fill={color.part} />
  const sheet = (y = 24) => <rect x="10" y={y} width="40" height="4" rx="2" fill={color.interface} />
  const stand = (d = 'M14 30v16M24 30v16M36 30v16M46 30v16') => (
    <path d={d} stroke={color.stand} strokeWidth="4" strokeLinecap="round" />
  )
  const trouble = (d: string) => (
    <path
      d={d}
      fill="none"
      stroke={color.wine}
      strokeWidth="2.2"
      strokeLinecap="round"
      strokeLinejoin="round"
    />
  )
  const drawings: Record<Complaint, ReactNode> = {
    'will not come off': (
      <>
        {part()}
        {sheet(20)}
        {stand('M14 26v18M24 26v18M36 26v18M46 26v18')}
        {trouble('M18 22l3 -3 3 3 3 -3 3 3 3 -3 3 3 3 -3 3 3')}
      </>
    ),
    'torn face': (
      <>
        {part('M6 6H54V20H40l-4 -5 -5 4 -5 -6 -4 7H6z')}
        {sheet(30)}
        {stand('M14 37v9M24 37v9M36 37v9M46 37v9')}
        {trouble('M22 20l4 -7 5 6 5 -4 4 5')}
      </>
    ),
    'sagging face': (
      <>
        {part('M6 6H54V18Q46 27 38 20Q30 29 22 20Q14 27 6 18z')}
        {sheet(32)}
        {stand('M14 39v7M24 39v7M36 39v7M46 39v7')}
        {trouble('M6 18Q14 27 22 20Q30 29 38 20Q46 27 54 18')}
      </>
    ),
    'interface stayed': (
      <>
        {part()}
        {sheet(20)}
        {stand('M14 36v10M24 36v10M36 36v10M46 36v10')}
        {trouble('M10 27H50M14 32v-2M24 32v-2M36 32v-2M46 32v-2')}
      </>
    ),
    'specks in the face': (
      <>
        {part()}
        {sheet(30)}
        {stand('M14 37v9M24 37v9M36 37v9M46 37v9')}
        {trouble('M14 16h.1M22 12h.1M29 17h.1M37 11h.1M44 16h.1M49 12h.1')}
      </>
    ),
    'support fell over': (
      <>
        {part()}
        {stand('M12 45l24 -14M20 46l24 -14')}
        {trouble('M46 24q8 4 4 14M54 34l-4 4 -4 -4')}
      </>
    ),
    'part broke': (
      <>
        {part('M6 6H26l3 6 -4 4 2 4H6zM32 8H54V22H33l-2 -4 4 -4z')}
        {sheet(28)}
        {stand('M14 34v12M24 34v12M36 34v12M46 34v12')}
        {trouble('M29 4l2 7 -4 5 4 8')}
      </>
    ),
    'marks at the side': (
      <>
        {part('M6 6H20V46H6z')}
        <rect x="26" y="16" width="5" height="30" rx="2" fill={color.stand} />
        <rect x="36" y="16" width="5" height="30" rx="2" fill={color.stand} />
        {trouble('M20 18l3 3 -3 3M20 28l3 3 -3 3M20 38l3 3 -3 3')}
      </>
    ),
  }
  return (
    <svg viewBox="0 0 60 52" width="60" height="52" aria-hidden>
      {drawings[of]}
      <path d="M2 49H58" stroke={color.ink} strokeWidth="1.4" />
    </svg>
  )
}
