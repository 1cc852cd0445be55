import { stepsOf, type Coupon, type Step, type StepReading } from './coupon'
import type { CsvTrial } from './readCsv'

const KIND_WORDS = {
  fan: 'an overhang fan',
  span: 'a bridge ladder',
  gap: 'a gap ladder',
  purge: 'a purge ladder',
  offset: 'an offset comb',
} as const

/**
 * Readings of a file as readings of a coupon's steps. A later row of the same step replaces an earlier one.
 * @returns what fits, and for the rest a sentence each; nothing of another kind fits
 */
export function matchCsv(
  coupon: Coupon,
  csv: CsvTrial,
): { readonly readings: readonly StepReading[]; readonly unmatched: readonly string[] } {
  if (csv.kind !== coupon.kind)
    return {
      readings: [],
      unmatched: [
        `"${csv.trial}" holds readings of ${KIND_WORDS[csv.kind]}, this trial is ${KIND_WORDS[coupon.kind]}.`,
      ],
    }
  const steps = stepsOf(coupon)
  const found = new Map<string, StepReading>()
  const unmatched: string[] = []
  const near = (a: number, b: number) => Math.abs(a - b) < 1e-6
  const take = (says: string, fits: (step: Step) => boolean, seen: Partial<StepReading>) => {
    const step = steps.find(fits)
    if (!step) unmatched.push(`The coupon has no step at ${says}.`)
    else
      found.set(step.key, {
        grade: null,
        release: null,
        finish: null,
        forceN: null,
        leftOut: false,
        ...seen,
        step: step.key,
      })
  }
  switch (csv.kind) {
    case 'fan':
      for (const one of csv.readings)
        take(
          `${one.angleDeg}° facing ${one.direction}`,
          (step) =>
            step.kind === 'fan' && near(step.angleDeg, one.angleDeg) && step.direction === one.direction,
          { grade: one.grade },
        )
      break
    case 'span':
      for (const one of csv.readings)
        take(`${one.spanMm} mm`, (step) => step.kind === 'span' && near(step.spanMm, one.spanMm), {
          grade: one.grade,
        })
      break
    case 'gap':
      for (const { gapMm, spacingMm, release, finish, forceN } of csv.readings)
        take(
          `${gapMm} mm with lines ${spacingMm} mm apart`,
          (step) => step.kind === 'gap' && near(step.gapMm, gapMm) && near(step.spacingMm, spacingMm),
          { release, finish, forceN },
        )
      break
    case 'purge':
      for (const one of csv.readings)
        take(
          `${one.volumeMm3} mm³ ${one.swap}`,
          (step) => step.kind === 'purge' && near(step.volumeMm3, one.volumeMm3) && step.swap === one.swap,
          { grade: one.grade },
        )
      break
    case 'offset':
      for (const one of csv.readings)
        if (one.grade !== null)
          take(
            `${one.shiftMm} mm along ${one.axis}`,
            (step) => step.kind === 'offset' && near(step.shiftMm, one.shiftMm) && step.axis === one.axis,
            { grade: one.grade },
          )
  }
  return { readings: [...found.values()], unmatched }
}
