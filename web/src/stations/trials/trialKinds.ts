import type { StepReading } from '@tender/contract'
import {
  COMB_GRADES,
  FAN_GRADES,
  FINISH_GRADES,
  PURGE_GRADES,
  RELEASE_GRADES,
  SPAN_GRADES,
  type CouponKind,
  type Step,
} from '@tender/core/trial'
import { gapMm, mm, signed, THIN } from '../../format/numbers'

/** How each kind of coupon is called, and what it is for. */
export const KINDS: Readonly<
  Record<
    CouponKind,
    { readonly name: string; readonly about: string; readonly asks: string; readonly step: string }
  >
> = {
  fan: {
    name: 'Overhang fan',
    about:
      'Arms that lean out ever farther, to each side. Finds how steep an underside prints well with nothing under it.',
    asks: 'Pick an arm, say how its underside looks',
    step: 'arm',
  },
  span: {
    name: 'Bridge ladder',
    about: 'Bridges of growing length. Finds how far a flat underside may span.',
    asks: 'Pick a bridge, say how its underside looks',
    step: 'bridge',
  },
  gap: {
    name: 'Gap ladder',
    about:
      'Tiles over supports with ever larger gaps. Finds the gap that lets go and still leaves a good face.',
    asks: 'Pick a tile, say how it came off and how its face looks',
    step: 'tile',
  },
  purge: {
    name: 'Purge ladder',
    about:
      'Strips printed one after the other straight after a swap. Finds how much must go through a shared nozzle.',
    asks: 'Pick a strip, say how its far end looks',
    step: 'strip',
  },
  offset: {
    name: 'Offset comb',
    about:
      'Teeth of one nozzle facing those of the other, a little further along each time. Finds what the second nozzle’s offset is off by.',
    asks: 'On each comb, name the pair that lines up best',
    step: 'pair',
  },
}

/** Words of the first grade a step is given; ladders of gaps have a second. */
export const GRADE_WORDS: Readonly<Record<CouponKind, readonly string[]>> = {
  fan: FAN_GRADES,
  span: SPAN_GRADES,
  gap: RELEASE_GRADES,
  purge: PURGE_GRADES,
  offset: COMB_GRADES,
}
export const GRADE_ASKS: Readonly<Record<CouponKind, string>> = {
  fan: 'How the underside looks',
  span: 'How the underside looks',
  gap: 'How it came off',
  purge: 'How the far end of the strip looks',
  offset: 'How the pair lines up',
}

export type SwapNames = { readonly a: string; readonly b: string }
const swapName = (swap: string | number, { a, b }: SwapNames) =>
  swap === 'AB' ? `${a} to ${b}` : `${b} to ${a}`

/** What a row of the coupon is called; empty where there is only one. */
export function rowName(kind: CouponKind, row: string | number, names: SwapNames): string {
  switch (kind) {
    case 'fan':
      return String(row)
    case 'span':
      return ''
    case 'gap':
      return row === 0 ? 'solid' : `lines ${mm(Number(row))} apart`
    case 'purge':
      return swapName(row, names)
    case 'offset':
      return row === 'z' ? 'height' : `along ${String(row).toUpperCase()}`
  }
}

/** A step in two parts: its value, and where it stands. */
export function stepName(step: Step, names: SwapNames): { readonly value: string; readonly place: string } {
  switch (step.kind) {
    case 'fan':
      return { value: `${step.angleDeg}°`, place: `facing ${step.direction}` }
    case 'span':
      return { value: mm(step.spanMm), place: 'from pier to pier' }
    case 'gap':
      return {
        value: gapMm(step.gapMm),
        place: step.spacingMm === 0 ? 'solid interface' : `lines ${mm(step.spacingMm)} apart`,
      }
    case 'purge':
      return { value: `${step.volumeMm3}${THIN}mm³`, place: swapName(step.swap, names) }
    case 'offset':
      return {
        value: signed(step.shiftMm, gapMm),
        place: step.axis === 'z' ? 'in height' : `along ${step.axis.toUpperCase()}`,
      }
  }
}

/** A step and its reading as one line, for those who do not see the drawing. */
export function describeStep(step: Step, reading: StepReading | undefined, names: SwapNames): string {
  const left = reading?.leftOut ? ', left out' : ''
  const word = (grade: number | null | undefined, words: readonly string[]) =>
    grade ? words[grade - 1] : 'not read'
  const { value, place } = stepName(step, names)
  if (step.kind === 'gap')
    return `${step.gapMm.toFixed(2)} mm: came off ${word(reading?.release, RELEASE_GRADES)}, face ${word(reading?.finish, FINISH_GRADES)}${left}`
  const plain = value.replaceAll(THIN, ' ')
  return `${step.kind === 'span' ? plain : `${plain} ${place}`}: ${word(reading?.grade, GRADE_WORDS[step.kind])}${left}`
}
