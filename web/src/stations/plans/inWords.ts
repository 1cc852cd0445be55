import type { Decisions } from '@tender/core/decide'
import type { StandCheck, StandVerdict } from '@tender/core/release'
import { mm, three } from '../../format/numbers'
import { CHOICES, FILAMENT_ROLES, NUMBERS } from './catalogue'

/** How a decision is called. */
export const labelOf = (name: keyof Decisions): string =>
  name in NUMBERS
    ? NUMBERS[name as keyof typeof NUMBERS].label
    : name in CHOICES
      ? CHOICES[name as keyof typeof CHOICES].label
      : name in FILAMENT_ROLES
        ? FILAMENT_ROLES[name as keyof typeof FILAMENT_ROLES]
        : name === 'towerAtMm'
          ? 'Place of the tower'
          : 'Limits of the sides'

/** A value of a decision as it is shown. */
export function valueInWords(
  name: keyof Decisions,
  value: unknown,
  nameOf: (filament: string) => string,
): string {
  if (name in NUMBERS) return NUMBERS[name as keyof typeof NUMBERS].show(value as number)
  if (name === 'supports') return value ? 'held' : 'left free'
  if (name === 'sideAnglesDeg') return value === null ? 'one for all' : 'each its own'
  if (name === 'towerAtMm') return towerWords(value as Decisions['towerAtMm'])
  if (name in CHOICES)
    return (
      CHOICES[name as keyof typeof CHOICES].options as readonly { value: unknown; word: string }[]
    ).find((option) => option.value === value)!.word
  return nameOf(value as string)
}

/** Where a prime tower stands, in words. */
export const towerWords = (at: Decisions['towerAtMm']): string =>
  at === null ? 'where there is room' : `at ${three(at[0])}, ${mm(at[1])}`

/** How all stands of a plan come off, in words. */
export const VERDICT_WORDS: Record<StandVerdict, string> = {
  'comes out whole': 'come out whole',
  'comes out in pieces': 'some come out in pieces',
  'locked in': 'some are locked in',
}

/** What becomes of a stand, in a few words. */
export function standInWords({ verdict, wayOut, pieces }: StandCheck): string {
  if (verdict === 'locked in') return 'Locked in'
  if (wayOut) return `Whole, ${wayOut}`
  return pieces === null || pieces === 1 ? 'In crumbs' : `Broken in ${pieces}`
}
