import { length, space } from './measures'
import { LIGHT, type Palette } from './palette'

const variable = (name: string) => `--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`

/** Colours as CSS variables, so that a change of scheme repaints without rendering. */
const color = Object.fromEntries(
  Object.keys(LIGHT).map((name) => [name, `var(${variable(name)})`]),
) as Record<keyof Palette, string>

export const cssVariables = (palette: Palette): string =>
  Object.entries(palette)
    .map(([name, value]) => `${variable(name)}:${value};`)
    .join('')

export const theme = {
  color,
  font: {
    serif: "'Newsreader Variable', Georgia, serif",
    sans: "'Commissioner Variable', system-ui, sans-serif",
    mono: "'Spline Sans Mono', ui-monospace, monospace",
  },
  size: {
    tiny: '11px',
    small: '12.5px',
    note: '13px',
    body: '14px',
    lead: '16px',
    sentence: '17px',
    card: '19px',
    heading: '21px',
    title: '25px',
  },
  space,
  border: {
    line: `${length.hair} solid ${color.line}`,
    faint: `${length.hair} solid ${color.faint}`,
    damson: `${length.hair} solid ${color.damson}`,
  },
  radius: { xs: '5px', s: '8px', m: '12px', round: '99px' },
  focus: `outline: ${length.rule} solid ${color.damson}; outline-offset: ${length.rule};`,
  floats: `0 12px 40px ${color.shadow}`,
} as const

export type Theme = typeof theme
