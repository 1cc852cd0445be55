/**
 * Lengths that no scheme changes: the distances between things, the sizes of things, and the widths
 * of the page at which a view is laid out anew. Colours change with the scheme and come by the theme.
 */

/** Distances between things and within them. */
export const space = {
  hair: '2px',
  xs: '4px',
  sm: '6px',
  s: '8px',
  md: '10px',
  m: '12px',
  l: '16px',
  xl: '20px',
  xxl: '28px',
} as const

/** Strokes, controls, and the widths and heights of columns, panels and pictures. */
export const length = {
  hair: '1px',
  rule: '2px',
  edge: '3px',
  small: '26px',
  control: '34px',
  touch: '44px',
  bar: '54px',
  thumb: '64px',
  xs: '84px',
  s: '132px',
  m: '204px',
  l: '286px',
  xl: '340px',
  xxl: '460px',
  dialog: '520px',
  wide: '760px',
  page: '1720px',
} as const

/** Conditions of a media rule: `@media ${at.phone} { … }`. */
export const at = {
  phone: '(max-width: 640px)',
  narrow: '(max-width: 800px)',
  medium: '(max-width: 1000px)',
  wide: '(max-width: 1180px)',
  /** Wide and high enough for a view that fills the page and scrolls within. */
  roomy: '(min-width: 1181px) and (min-height: 700px)',
  /** The system paints in a few colours of its own, for more contrast. */
  forcedColors: '(forced-colors: active)',
} as const

/** What stands above and below a view that fills the rest of the page. */
export const above = { part: '150px', matrix: '215px' } as const
