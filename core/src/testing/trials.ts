import type { FanReading, GapReading, Grade, TrialConditions } from '../trial'

/** Goes by its name alone. */
export const named = (name: string) => ({ id: name, name })

/** An everyday print: Chalk PLA on itself. */
export const aPrint = (changes: Partial<TrialConditions> = {}): TrialConditions => ({
  printer: named('Plain two-nozzle printer'),
  partFilament: named('Chalk PLA'),
  supportFilament: named('Chalk PLA'),
  partLot: '',
  supportLot: '',
  nozzleMm: 0.4,
  layerHeightMm: 0.2,
  lineWidthMm: 0.45,
  speedMmS: 60,
  fanPercent: 100,
  damp: false,
  ...changes,
})

/** A tile of a solid gap ladder, as it was read. */
export const aTile = (gapMm: number, release: Grade, finish: Grade | null): GapReading => ({
  gapMm,
  spacingMm: 0,
  release,
  finish,
  forceN: null,
  areaMm2: null,
})

/** The nine arms of a fan that were good up to a limit. */
export const fanUpTo = (limitDeg: number): FanReading[] =>
  [30, 35, 40, 45, 50, 55, 60, 65, 70].map((angleDeg) => ({
    angleDeg,
    direction: 'any',
    layerHeightMm: 0.2,
    lineWidthMm: 0.45,
    grade: angleDeg < limitDeg ? 1 : 5,
  }))
