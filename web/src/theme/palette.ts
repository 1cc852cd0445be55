/**
 * Every colour of the interface. Roles and grades keep their hue in both schemes; each pair of text and
 * ground meets AA.
 */
export type Palette = {
  readonly paper: string
  readonly sheet: string
  readonly ink: string
  readonly soft: string
  readonly line: string
  readonly faint: string
  readonly damson: string
  readonly damsonWash: string
  readonly onDamson: string
  readonly part: string
  readonly partDeep: string
  readonly stand: string
  readonly standWash: string
  readonly interface: string
  readonly footing: string
  readonly purge: string
  readonly pine: string
  readonly moss: string
  readonly butter: string
  readonly clay: string
  readonly wine: string
  readonly shadow: string
}

export const LIGHT: Palette = {
  paper: '#f6f2ea',
  sheet: '#fffdf8',
  ink: '#262230',
  soft: '#645d6c',
  line: '#ddd4c6',
  faint: '#ece5d8',
  damson: '#6b2c5c',
  damsonWash: '#f2e6ee',
  onDamson: '#ffffff',
  part: '#a5a8b4',
  partDeep: '#7d818f',
  stand: '#cd8a62',
  standWash: '#f3e2d5',
  interface: '#4f3f94',
  footing: '#b79a74',
  purge: '#6f8390',
  pine: '#2f6b52',
  moss: '#7f9640',
  butter: '#d3a632',
  clay: '#c2683c',
  wine: '#8d1f4b',
  shadow: '#3a2a4422',
}

/** For words and strokes on the colours of roles and grades, which are light in both schemes. */
export const ON_ROLE = LIGHT.ink

export const DARK: Palette = {
  paper: '#1b1822',
  sheet: '#24202d',
  ink: '#f0ebe1',
  soft: '#b3aab9',
  line: '#463f50',
  faint: '#332d3d',
  damson: '#d79bc4',
  damsonWash: '#40293c',
  onDamson: '#241a22',
  part: '#9a9eac',
  partDeep: '#c3c6d0',
  stand: '#cd8a62',
  standWash: '#4b372d',
  interface: '#8d7de0',
  footing: '#b79a74',
  purge: '#8299a7',
  pine: '#69b394',
  moss: '#a5bd62',
  butter: '#dfb84f',
  clay: '#db8a60',
  wine: '#e0648f',
  shadow: '#00000066',
}
