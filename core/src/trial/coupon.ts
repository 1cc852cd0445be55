import type { FanReading, GapReading, Grade } from './readings'

/** What was printed: the steps of a coupon. */
export type Coupon =
  | { readonly kind: 'fan'; readonly anglesDeg: readonly number[]; readonly directions: readonly string[] }
  | { readonly kind: 'gap'; readonly gapsMm: readonly number[]; readonly spacingsMm: readonly number[] }

/** One specimen: an arm of a fan or a tile of a ladder. The key names it within its coupon. */
export type Step =
  | { readonly key: string; readonly kind: 'fan'; readonly angleDeg: number; readonly direction: string }
  | { readonly key: string; readonly kind: 'gap'; readonly gapMm: number; readonly spacingMm: number }

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

export const STARTING_FAN: Coupon = { kind: 'fan', anglesDeg: [30, 35, 40, 45, 50, 55, 60, 65, 70], directions: COMPASS }
export const STARTING_LADDER: Coupon = { kind: 'gap', gapsMm: [0, 0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.35, 0.4], spacingsMm: [0] }

/** The steps of a coupon in the order of its drawing: row by row (direction or spacing), along the row by angle or gap. */
export function stepsOf(coupon: Coupon): Step[] {
  return coupon.kind === 'fan'
    ? coupon.directions.flatMap((direction) => coupon.anglesDeg.map((angleDeg): Step => ({ key: `${direction}:${angleDeg}`, kind: 'fan', angleDeg, direction })))
    : coupon.spacingsMm.flatMap((spacingMm) => coupon.gapsMm.map((gapMm): Step => ({ key: `${spacingMm}:${gapMm}`, kind: 'gap', gapMm, spacingMm })))
}

/** Readings of a fan in the form its fit takes. Steps that are left out, unread or not on the coupon do not count. */
export function fanReadings(coupon: Coupon, readings: readonly StepReading[], layerHeightMm: number, lineWidthMm: number): FanReading[] {
  return matched(coupon, readings).flatMap(({ step, reading }) =>
    step.kind === 'fan' && reading.grade !== null ? [{ angleDeg: step.angleDeg, direction: step.direction, layerHeightMm, lineWidthMm, grade: reading.grade }] : [],
  )
}

/** Readings of a gap ladder in the form its fit takes; the area of a tile is needed only with forces. */
export function gapReadings(coupon: Coupon, readings: readonly StepReading[], areaMm2: number | null = null): GapReading[] {
  return matched(coupon, readings).flatMap(({ step, reading }) =>
    step.kind === 'gap' && (reading.release !== null || reading.finish !== null)
      ? [{ gapMm: step.gapMm, spacingMm: step.spacingMm, release: reading.release, finish: reading.finish, forceN: reading.forceN, areaMm2 }]
      : [],
  )
}

function matched(coupon: Coupon, readings: readonly StepReading[]): { step: Step; reading: StepReading }[] {
  const byKey = new Map(readings.map((reading) => [reading.step, reading]))
  return stepsOf(coupon).flatMap((step) => {
    const reading = byKey.get(step.key)
    return reading && !reading.leftOut ? [{ step, reading }] : []
  })
}
