import {
  clingKey,
  type Cling,
  type Family,
  type FamilyBook,
  type FamilyFacts,
  type Filament,
  type Printer as PlanPrinter,
} from '@tender/core/bench'
import { readingsOf, type KnownTrial } from '@tender/core/trial'
import type { FamilyTable } from './family'
import type { StoredFilament } from './filament'
import type { TakeOff } from '@tender/core/takeOff'
import type { Printer } from './printer'
import { WHOLE, type StoredTakeOff } from './takeOff'
import type { Trial } from './trial'

/**
 * A filament of the bench as plans know it: what is left is what its spools hold together. With a printer,
 * its loaded spools say which lot is printed from and at what price.
 */
export function planFilament(
  { id, spools, name, family, colour, densityGcm3, diameterMm, pricePerKg, nozzleC, bedC }: StoredFilament,
  printer?: Pick<Printer, 'loaded'>,
): Filament {
  const gramsLeft = spools.length === 0 ? null : spools.reduce((sum, spool) => sum + spool.gramsLeft, 0)
  const loaded = spools.filter((spool) => printer?.loaded.includes(spool.id))
  const usable = loaded.length > 0 ? loaded : spools
  const lots = [...new Set(usable.map((spool) => spool.lot).filter((lot) => lot !== ''))]
  return {
    id,
    name,
    family,
    colour: loaded[0]?.colour ?? colour,
    densityGcm3,
    diameterMm,
    pricePerKg: loaded[0]?.pricePerKg ?? pricePerKg,
    nozzleC,
    bedC,
    gramsLeft,
    lots,
  }
}

/** What evidence calls it: what is simulated says so wherever it is named. */
const named = ({ name, simulated }: { readonly name: string; readonly simulated: boolean }) =>
  simulated ? `${name} (simulated)` : name

/** A stored trial as evidence for plans. */
export function knownTrial(trial: Trial): KnownTrial {
  const conditions = {
    printer: { id: trial.printerId, name: trial.printerName },
    partFilament: { id: trial.partFilamentId, name: trial.partFilamentName },
    supportFilament: { id: trial.supportFilamentId, name: trial.supportFilamentName },
    partLot: trial.partLot,
    supportLot: trial.supportLot,
    nozzleMm: trial.nozzleMm,
    layerHeightMm: trial.layerHeightMm,
    lineWidthMm: trial.lineWidthMm,
    speedMmS: trial.speedMmS,
    fanPercent: trial.fanPercent,
    damp: trial.damp,
    ...(trial.simulated && { simulated: true }),
  }
  const { id, printedOn, coupon, readings } = trial
  return { id, name: named(trial), printedOn, conditions, ...readingsOf(coupon, readings, trial, id) }
}

/** A printer of the bench as plans know it. */
export function planPrinter({ revision: _, updatedAt: __, loaded: ___, ...printer }: Printer): PlanPrinter {
  return printer
}

/** Stored trials as evidence; those that the maker left out stay out. */
export const knownTrials = (trials: readonly Trial[]): KnownTrial[] =>
  trials.filter((trial) => !trial.leftOut).map(knownTrial)

/** What a maker changed of families and clings, in the form that core asks. */
export function familyBook({ families, clings }: FamilyTable): FamilyBook {
  const facts: Partial<Record<Family, FamilyFacts>> = {}
  const cling: Record<string, Cling> = {}
  for (const { name, own, densityGcm3, nozzleC, bedC, softensC, dissolvesIn, drawsWater } of families)
    if (own) facts[name] = { densityGcm3, nozzleC, bedC, softensC, dissolvesIn, drawsWater }
  for (const { a, b, own, cling: strength } of clings) if (own) cling[clingKey(a, b)] = strength
  return { facts, cling }
}

/** A stored take-off as core knows it: circumstances are those of its plan. */
export function takeOffOf({
  id,
  name,
  printedOn,
  damp,
  simulated,
  document,
  printed,
  notes,
  lessonsLeftOut,
}: Pick<
  StoredTakeOff,
  'id' | 'name' | 'printedOn' | 'damp' | 'simulated' | 'document' | 'printed' | 'notes' | 'lessonsLeftOut'
>): TakeOff {
  const { printer, decisions, filaments } = document
  const part = filaments.find((one) => one.id === decisions.partFilament)
  const whole = notes.find(({ at }) => at === WHOLE)
  return {
    id,
    name: named({ name, simulated }),
    printedOn,
    conditions: {
      printer: { id: printer.id, name: printer.name },
      partFilament: { id: decisions.partFilament, name: part?.name ?? decisions.partFilament },
      partLot: part?.lots[0] ?? '',
      nozzleMm: printer.nozzleMm,
      layerHeightMm: decisions.layerHeightMm,
      lineWidthMm: decisions.lineWidthMm,
      speedMmS: printer.interfaceMmS,
      fanPercent: decisions.fanPercent,
      damp,
      ...(simulated && { simulated }),
    },
    filaments: filaments.map((one) => ({ id: one.id, name: one.name, lot: one.lots[0] ?? '' })),
    printed,
    contacts: notes
      .filter(({ at }) => at !== WHOLE)
      .map(({ at, release, finish, stayed, specks, damage, leftOut }) => ({
        contact: at,
        release,
        finish,
        stayed,
        specks,
        damage,
        leftOut,
      })),
    whole: {
      tool: whole?.tool ?? null,
      minutes: whole?.minutes ?? null,
      partG: whole?.partG ?? null,
      wasteG: whole?.wasteG ?? null,
    },
    leftOut: lessonsLeftOut,
  }
}
