import type { Grade } from '@tender/core/trial'
import { LIGHT, ON_ROLE, type Palette } from '../theme/palette'
import { theme } from '../theme/theme'

const NAMES = ['pine', 'moss', 'butter', 'clay', 'wine'] as const satisfies readonly (keyof Palette)[]

/** Colour of a grade, 1 best to 5 worst. Never shown without its figure or word. */
export const gradeColour = (grade: Grade): string => theme.color[NAMES[grade - 1]]
/** Figures on a grade's colour that can be read in both schemes. */
export const gradeInk = (grade: Grade): string =>
  grade === 2 || grade === 3 || grade === 4 ? ON_ROLE : theme.color.sheet

/** Words on a filament's own colour: dark on light, light on dark. */
export function inkOn(hex: string): string {
  const [r, g, b] = [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16) / 255)
  return 0.299 * r + 0.587 * g + 0.114 * b > 0.5 ? LIGHT.ink : LIGHT.sheet
}
