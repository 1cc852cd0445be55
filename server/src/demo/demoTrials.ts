import type { ReadingInput, TrialInput } from '@tender/contract'
import { STARTING_COUPONS, stepsOf, type Coupon, type Grade } from '@tender/core/trial'

type DemoTrial = {
  readonly name: string
  readonly coupon: Coupon
  readonly part: string
  readonly support: string
  readonly printedOn: string
  /**
   * Grades in the order of the steps; a dot where nothing was read. Ladders of gaps have two rows: release
   * and finish.
   */
  readonly grades: readonly string[]
  readonly forcesN?: readonly (number | null)[]
  readonly printer?: string
  readonly notes?: Readonly<Record<string, string>>
  readonly changes?: Partial<TrialInput>
}

const { fan, span, gap, purge, offset } = STARTING_COUPONS

/** Printed tests of the workshop, written down as they were read. */
const TRIALS: readonly DemoTrial[] = [
  {
    name: 'Chalk fan',
    coupon: fan,
    part: 'Chalk PLA',
    support: 'Chalk PLA',
    printedOn: '2026-11-14',
    grades: ['111112455' + '111111355' + '111122455' + '111123555'],
    changes: { partLot: 'C-114' },
  },
  {
    name: 'Moss fan',
    coupon: fan,
    part: 'Moss PETG',
    support: 'Moss PETG',
    printedOn: '2026-11-15',
    grades: ['111234555' + '111223455' + '112234555' + '112345555'],
  },
  {
    name: 'Chalk bridges',
    coupon: span,
    part: 'Chalk PLA',
    support: 'Chalk PLA',
    printedOn: '2026-11-16',
    grades: ['11111234'],
  },
  {
    name: 'Chalk on Chalk',
    coupon: gap,
    part: 'Chalk PLA',
    support: 'Chalk PLA',
    printedOn: '2026-11-19',
    grades: ['554221111', '..1122345'],
    forcesN: [null, null, 31, 12.4, 5.2, 2.6, 1.1, 0.6, null],
    changes: { partLot: 'C-114', supportLot: 'C-114' },
  },
  {
    name: 'Moss under Chalk',
    coupon: { ...gap, gapsMm: [0, 0.03, 0.06, 0.09, 0.12, 0.16, 0.2, 0.25] },
    part: 'Chalk PLA',
    support: 'Moss PETG',
    printedOn: '2026-11-20',
    grades: ['22111111', '11122345'],
    forcesN: [6.8, 4.1, 2.2, 1.3, null, null, null, null],
    changes: { partLot: 'C-114', supportLot: 'M-20' },
  },
  {
    name: 'Moss under Chalk, again',
    coupon: { ...gap, gapsMm: [0, 0.03, 0.06, 0.09, 0.12] },
    part: 'Chalk PLA',
    support: 'Moss PETG',
    printedOn: '2026-11-22',
    grades: ['21211', '11122'],
  },
  {
    name: 'Mist under Chalk',
    coupon: gap,
    part: 'Chalk PLA',
    support: 'Mist PVA',
    printedOn: '2026-11-23',
    grades: ['332......', '112......'],
    notes: { '0:0.1': 'strings between the lines' },
    changes: { damp: true, note: 'The spool stood open over the weekend.', leftOut: true },
  },
  {
    name: 'Fog under Slate',
    coupon: gap,
    part: 'Slate ABS',
    support: 'Fog HIPS',
    printedOn: '2026-11-21',
    grades: ['443221111', '.11122345'],
    printer: 'Workshop changer',
  },
  {
    name: 'Slate and Fog, one nozzle',
    coupon: purge,
    part: 'Slate ABS',
    support: 'Fog HIPS',
    printedOn: '2026-11-21',
    grades: ['54322111' + '55443221'],
    printer: 'Workshop changer',
  },
  {
    name: 'Twin’s second nozzle',
    coupon: offset,
    part: 'Chalk PLA',
    support: 'Moss PETG',
    printedOn: '2026-11-13',
    // X lines up at +0.05, Y at 0, Z between 0 and +0.05.
    grades: ['....3213...' + '....212....' + '.....11....'],
    changes: { offsetMm: [24.1, 0, -0.05] },
  },
]

export type SeededTrial = {
  readonly input: Omit<TrialInput, 'printerId' | 'partFilamentId' | 'supportFilamentId'>
  readonly part: string
  readonly support: string
  readonly printer: string
  readonly readings: ReadonlyMap<string, ReadingInput>
}

export const DEMO_TRIALS: readonly SeededTrial[] = TRIALS.map(
  ({
    name,
    coupon,
    part,
    support,
    printedOn,
    grades,
    forcesN,
    notes = {},
    printer = 'Workshop twin',
    changes,
  }) => ({
    part,
    support,
    printer,
    input: {
      name,
      coupon: structuredClone(coupon) as TrialInput['coupon'],
      nozzleMm: 0.4,
      layerHeightMm: 0.2,
      lineWidthMm: 0.45,
      speedMmS:
        coupon.kind === 'span'
          ? 25
          : coupon.kind === 'gap' || coupon.kind === 'offset'
            ? 40
            : printer === 'Workshop twin'
              ? 60
              : 80,
      fanPercent: part === 'Slate ABS' ? 20 : 100,
      damp: false,
      simulated: false,
      tileAreaMm2: coupon.kind === 'gap' ? 196 : null,
      printedOn,
      partLot: '',
      supportLot: '',
      offsetMm: null,
      note: '',
      leftOut: false,
      ...changes,
    },
    readings: new Map(
      stepsOf(coupon).flatMap((step, i): [string, ReadingInput][] =>
        readingAt(coupon.kind, grades, forcesN, i, notes[step.key] ?? '').map((reading) => [
          step.key,
          reading,
        ]),
      ),
    ),
  }),
)

function readingAt(
  kind: Coupon['kind'],
  grades: readonly string[],
  forcesN: DemoTrial['forcesN'],
  at: number,
  note: string,
): ReadingInput[] {
  const [first, second] = grades.map((row) => (row[at] === '.' ? null : (Number(row[at]) as Grade)))
  if (first === null && !second) return []
  const base = { grade: null, release: null, finish: null, forceN: null, leftOut: false, note }
  return kind === 'gap'
    ? [{ ...base, release: first, finish: second, forceN: forcesN?.[at] ?? null }]
    : [{ ...base, grade: first }]
}
