import { useTheme } from 'styled-components'

/** The bridge: two posts, a tender arch, a deck of dashes. */
export function Mark() {
  const { color } = useTheme()
  return (
    <svg width="30" height="22" viewBox="0 0 30 22" aria-hidden>
      <path d="M1.2 21V8M28.8 21V8" stroke={color.ink} strokeWidth="2.4" />
      <path d="M1 9Q15 -5 29 9" fill="none" stroke={color.damson} strokeWidth="2.6" />
      <path d="M3 15h24" stroke={color.ink} strokeWidth="2" strokeDasharray="3 2.4" />
    </svg>
  )
}
