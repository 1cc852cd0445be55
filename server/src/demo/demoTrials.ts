import type { ReadingInput, TrialInput } from '@tender/contract'
import { STARTING_FAN, STARTING_LADDER, stepsOf, type Coupon, type Grade } from '@tender/core/trial'

type DemoTrial = {
  readonly name: string
  readonly coupon: Coupon
  readonly part: string
  readonly support: string
  readonly printedOn: string
  readonly damp?: boolean
  /** Grades in the order of the steps; a dot where nothing was read. Fans have one row, ladders two: release and finish. */
  readonly grades: readonly string[]
  readonly forcesN?: readonly (number | null)[]
}

/** Printed tests of the workshop, written down as they were read. */
const TRIALS: readonly DemoTrial[] = [
  { name: 'Chalk fan', coupon: STARTING_FAN, part: 'Chalk PLA', support: 'Chalk PLA', printedOn: '2026-11-14', grades: ['111112455' + '111111355' + '111122455' + '111123555'] },
  { name: 'Moss fan', coupon: STARTING_FAN, part: 'Moss PETG', support: 'Moss PETG', printedOn: '2026-11-15', grades: ['111234555' + '111223455' + '112234555' + '112345555'] },
  {
    name: 'Chalk on Chalk',
    coupon: STARTING_LADDER,
    part: 'Chalk PLA',
    support: 'Chalk PLA',
    printedOn: '2026-11-19',
    grades: ['554221111', '..1122345'],
    forcesN: [null, null, 31, 12.4, 5.2, 2.6, 1.1, 0.6, null],
  },
  {
    name: 'Moss under Chalk',
    coupon: { kind: 'gap', gapsMm: [0, 0.03, 0.06, 0.09, 0.12, 0.16, 0.2, 0.25], spacingsMm: [0] },
    part: 'Chalk PLA',
    support: 'Moss PETG',
    printedOn: '2026-11-20',
    grades: ['22111111', '11122345'],
    forcesN: [6.8, 4.1, 2.2, 1.3, null, null, null, null],
  },
  { name: 'Mist under Chalk', coupon: STARTING_LADDER, part: 'Chalk PLA', support: 'Mist PVA', printedOn: '2026-11-23', damp: true, grades: ['332......', '112......'] },
]

export type SeededTrial = {
  readonly input: Omit<TrialInput, 'printerId' | 'partFilamentId' | 'supportFilamentId'>
  readonly part: string
  readonly support: string
  readonly readings: ReadonlyMap<string, ReadingInput>
}

export const DEMO_TRIALS: readonly SeededTrial[] = TRIALS.map(({ name, coupon, part, support, printedOn, damp = false, grades, forcesN }) => ({
  part,
  support,
  input: {
    name,
    coupon: structuredClone(coupon) as TrialInput['coupon'],
    nozzleMm: 0.4,
    layerHeightMm: 0.2,
    lineWidthMm: 0.45,
    speedMmS: coupon.kind === 'fan' ? 60 : 40,
    fanPercent: 100,
    damp,
    tileAreaMm2: coupon.kind === 'gap' ? 196 : null,
    printedOn,
  },
  readings: new Map(stepsOf(coupon).flatMap((step, i): [string, ReadingInput][] => readingAt(coupon.kind, grades, forcesN, i).map((reading) => [step.key, reading]))),
}))

function readingAt(kind: Coupon['kind'], grades: readonly string[], forcesN: DemoTrial['forcesN'], at: number): ReadingInput[] {
  const [first, second] = grades.map((row) => (row[at] === '.' ? null : (Number(row[at]) as Grade)))
  if (first === null && !second) return []
  return kind === 'fan'
    ? [{ grade: first, release: null, finish: null, forceN: null, leftOut: false }]
    : [{ grade: null, release: first, finish: second, forceN: forcesN?.[at] ?? null, leftOut: false }]
}
