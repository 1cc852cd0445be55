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
    title: '25px',
  },
  space: {
    hair: '2px',
    xs: '4px',
    sm: '6px',
    s: '8px',
    md: '10px',
    m: '12px',
    l: '16px',
    xl: '20px',
    xxl: '28px',
  },
  border: {
    line: `1px solid ${color.line}`,
    faint: `1px solid ${color.faint}`,
    damson: `1px solid ${color.damson}`,
  },
  radius: { xs: '5px', s: '8px', m: '12px', round: '99px' },
  focus: `outline: 2px solid ${color.damson}; outline-offset: 2px;`,
  floats: `0 12px 40px ${color.shadow}`,
} as const

export type Theme = typeof theme
