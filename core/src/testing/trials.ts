import type { TrialConditions } from '../trial'

/** An everyday print: Chalk PLA on itself. */
export const aPrint = (changes: Partial<TrialConditions> = {}): TrialConditions => ({
  printer: 'Plain two-nozzle printer',
  partFilament: 'Chalk PLA',
  supportFilament: 'Chalk PLA',
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
