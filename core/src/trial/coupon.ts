import {
  SWAPS,
  type Axis,
  type FanReading,
  type GapReading,
  type Grade,
  type OffsetReading,
  type PurgeReading,
  type SpanReading,
  type Swap,
} from './readings'

/** What was printed: the steps of a coupon. */
export type Coupon =
  | { readonly kind: 'fan'; readonly anglesDeg: readonly number[]; readonly directions: readonly string[] }
  | { readonly kind: 'span'; readonly spansMm: readonly number[] }
  | {
      readonly kind: 'gap'
      readonly gapsMm: readonly number[]
      readonly spacingsMm: readonly number[]
      readonly interfaceLayers: number
    }
  | { readonly kind: 'purge'; readonly volumesMm3: readonly number[]; readonly swaps: readonly Swap[] }
  | { readonly kind: 'offset'; readonly shiftsMm: readonly number[]; readonly axes: readonly Axis[] }
export type CouponKind = Coupon['kind']
export type CouponOf<K extends CouponKind> = Coupon & { readonly kind: K }

export const COUPON_KINDS = ['fan', 'span', 'gap', 'purge', 'offset'] as const satisfies readonly CouponKind[]

/** One specimen: an arm of a fan, a bridge, a tile, a strip, a tooth. The key names it within its coupon. */
export type Step =
  | { readonly key: string; readonly kind: 'fan'; readonly angleDeg: number; readonly direction: string }
  | { readonly key: string; readonly kind: 'span'; readonly spanMm: number }
  | { readonly key: string; readonly kind: 'gap'; readonly gapMm: number; readonly spacingMm: number }
  | { readonly key: string; readonly kind: 'purge'; readonly volumeMm3: number; readonly swap: Swap }
  | { readonly key: string; readonly kind: 'offset'; readonly shiftMm: number; readonly axis: Axis }

/** What was seen on one step; only what its coupon asks for is filled in. */
export type StepReading = {
  readonly step: string
  readonly grade: Grade | null
  readonly release: Grade | null
  readonly finish: Grade | null
  readonly forceN: number | null
  /** Kept, but not used in the fit. */
  readonly leftOut: boolean
}

export const COMPASS = ['north', 'east', 'south', 'west'] as const
/** The same with the sides between. */
export const FULL_COMPASS = [
  'north',
  'north-east',
  'east',
  'south-east',
  'south',
  'south-west',
  'west',
  'north-west',
] as const

export const STARTING_COUPONS: { readonly [K in CouponKind]: CouponOf<K> } = {
  fan: { kind: 'fan', anglesDeg: [30, 35, 40, 45, 50, 55, 60, 65, 70], directions: COMPASS },
  span: { kind: 'span', spansMm: [5, 10, 15, 20, 30, 40, 55, 70] },
  gap: {
    kind: 'gap',
    gapsMm: [0, 0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.35, 0.4],
    spacingsMm: [0],
    interfaceLayers: 3,
  },
  purge: { kind: 'purge', volumesMm3: [40, 80, 120, 160, 200, 250, 300, 360], swaps: SWAPS },
  offset: {
    kind: 'offset',
    shiftsMm: [-0.25, -0.2, -0.15, -0.1, -0.05, 0, 0.05, 0.1, 0.15, 0.2, 0.25],
    axes: ['x', 'y', 'z'],
  },
}

/** The rows a coupon is drawn in, and the values along each of them. */
export function couponGrid(coupon: Coupon): {
  readonly rows: readonly (string | number)[]
  readonly columns: readonly number[]
} {
  switch (coupon.kind) {
    case 'fan':
      return { rows: coupon.directions, columns: coupon.anglesDeg }
    case 'span':
      return { rows: ['span'], columns: coupon.spansMm }
    case 'gap':
      return { rows: coupon.spacingsMm, columns: coupon.gapsMm }
    case 'purge':
      return { rows: coupon.swaps, columns: coupon.volumesMm3 }
    case 'offset':
      return { rows: coupon.axes, columns: coupon.shiftsMm }
  }
}

/** The steps of a coupon in the order of its drawing: row by row, along the row by its value. */
export function stepsOf(coupon: Coupon): Step[] {
  const { rows, columns } = couponGrid(coupon)
  return rows.flatMap((row) => columns.map((value) => stepOf(coupon.kind, row, value)))
}

function stepOf(kind: CouponKind, row: string | number, value: number): Step {
  const key = `${row}:${value}`
  switch (kind) {
    case 'fan':
      return { key, kind, angleDeg: value, direction: String(row) }
    case 'span':
      return { key, kind, spanMm: value }
    case 'gap':
      return { key, kind, gapMm: value, spacingMm: Number(row) }
    case 'purge':
      return { key, kind, volumeMm3: value, swap: row as Swap }
    case 'offset':
      return { key, kind, shiftMm: value, axis: row as Axis }
  }
}

/** Circumstances of a print that some fits need. */
export type PrintedAs = {
  readonly layerHeightMm: number
  readonly lineWidthMm: number
  readonly tileAreaMm2: number | null
}

/** Readings by kind, in the form that the fit of each takes. */
export type Readings =
  | { readonly kind: 'fan'; readonly readings: readonly FanReading[] }
  | { readonly kind: 'span'; readonly readings: readonly SpanReading[] }
  | { readonly kind: 'gap'; readonly readings: readonly GapReading[] }
  | { readonly kind: 'purge'; readonly readings: readonly PurgeReading[] }
  | { readonly kind: 'offset'; readonly readings: readonly OffsetReading[] }

/**
 * What was read of a coupon, in the form its fit takes. Steps that are left out, unread or not on the coupon
 * do not count; the teeth of a comb all do, since the best of them was chosen among all.
 * @param name keeps the combs of different prints apart
 */
export function readingsOf(
  coupon: Coupon,
  readings: readonly StepReading[],
  as: PrintedAs,
  name = '',
): Readings {
  const byKey = new Map(readings.map((reading) => [reading.step, reading]))
  const used = stepsOf(coupon).flatMap((step) => {
    const reading = byKey.get(step.key)
    return reading && !reading.leftOut ? [{ step, reading }] : []
  })
  const graded = <R>(make: (step: Step, grade: Grade) => R): R[] =>
    used.flatMap(({ step, reading: { grade } }) => (grade === null ? [] : [make(step, grade)]))
  switch (coupon.kind) {
    case 'fan':
      return {
        kind: 'fan',
        readings: graded(({ ...step }, grade) => ({
          ...pick(step, 'fan', 'angleDeg', 'direction'),
          layerHeightMm: as.layerHeightMm,
          lineWidthMm: as.lineWidthMm,
          grade,
        })),
      }
    case 'span':
      return { kind: 'span', readings: graded((step, grade) => ({ ...pick(step, 'span', 'spanMm'), grade })) }
    case 'gap':
      return {
        kind: 'gap',
        readings: used.flatMap(({ step, reading: { release, finish, forceN } }) =>
          release === null && finish === null
            ? []
            : [
                {
                  ...pick(step, 'gap', 'gapMm', 'spacingMm'),
                  release,
                  finish,
                  forceN,
                  areaMm2: as.tileAreaMm2,
                },
              ],
        ),
      }
    case 'purge':
      return {
        kind: 'purge',
        readings: graded((step, grade) => ({ ...pick(step, 'purge', 'volumeMm3', 'swap'), grade })),
      }
    case 'offset': {
      const chosen = new Set(
        used
          .filter(({ reading }) => reading.grade === 1)
          .map(({ step }) => pick(step, 'offset', 'axis').axis),
      )
      return {
        kind: 'offset',
        readings: stepsOf(coupon).flatMap((step) => {
          const { axis, shiftMm } = pick(step, 'offset', 'axis', 'shiftMm')
          const reading = byKey.get(step.key)
          return chosen.has(axis)
            ? [
                {
                  axis,
                  shiftMm,
                  grade: reading && !reading.leftOut ? reading.grade : null,
                  comb: `${name}:${axis}`,
                },
              ]
            : []
        }),
      }
    }
  }
}

/** Some fields of a step whose kind the caller knows. */
function pick<K extends CouponKind, F extends keyof (Step & { kind: K })>(
  step: Step,
  kind: K,
  ...fields: F[]
): Pick<Step & { kind: K }, F> {
  if (step.kind !== kind) throw new Error(`A coupon mixes ${kind} and ${step.kind}.`)
  return Object.fromEntries(fields.map((field) => [field, (step as Step & { kind: K })[field]])) as Pick<
    Step & { kind: K },
    F
  >
}
