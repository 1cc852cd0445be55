import type { Filament } from '@tender/core/bench'
import type { KnownTrial } from '@tender/core/plan'
import { fanReadings, gapReadings } from '@tender/core/trial'
import type { StoredFilament, Trial } from './wire'

/** A filament of the bench as plans know it: what is left is what its spools hold together. */
export function planFilament({ spools, name, family, colour, densityGcm3, diameterMm, pricePerKg, nozzleC, bedC }: StoredFilament): Filament {
  const gramsLeft = spools.length === 0 ? null : spools.reduce((sum, spool) => sum + spool.gramsLeft, 0)
  return { name, family, colour, densityGcm3, diameterMm, pricePerKg, nozzleC, bedC, gramsLeft }
}

/** A stored trial as evidence for plans. */
export function knownTrial(trial: Trial): KnownTrial {
  const conditions = {
    printer: trial.printerName,
    partFilament: trial.partFilamentName,
    supportFilament: trial.supportFilamentName,
    nozzleMm: trial.nozzleMm,
    layerHeightMm: trial.layerHeightMm,
    lineWidthMm: trial.lineWidthMm,
    speedMmS: trial.speedMmS,
    fanPercent: trial.fanPercent,
    damp: trial.damp,
  }
  const { id, name, coupon, readings } = trial
  return coupon.kind === 'fan'
    ? { id, name, conditions, kind: 'fan', readings: fanReadings(coupon, readings, trial.layerHeightMm, trial.lineWidthMm) }
    : { id, name, conditions, kind: 'gap', readings: gapReadings(coupon, readings, trial.tileAreaMm2) }
}
