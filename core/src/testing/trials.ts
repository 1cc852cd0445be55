import type { TrialConditions } from '../trial'

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
