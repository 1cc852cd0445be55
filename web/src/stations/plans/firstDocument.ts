import { planFilament, planPrinter, type Part, type Printer, type StoredFilament } from '@tender/contract'
import type { FamilyBook } from '@tender/core/bench'
import { newDocument, startFromEvidence, type PlanDocument } from '@tender/core/decide'
import type { KnownTrial } from '@tender/core/trial'

/** The filament that most is known about. */
export function bestKnown(
  filaments: readonly StoredFilament[],
  trials: readonly KnownTrial[],
): StoredFilament {
  const readings = (id: string) =>
    trials
      .filter((trial) => trial.conditions.partFilament.id === id)
      .reduce((sum, trial) => sum + trial.readings.length, 0)
  return filaments.toSorted((a, b) => readings(b.id) - readings(a.id))[0]
}

/** A first plan: part and supports in one filament, every value where the readings put it. */
export function firstDocument(
  part: Pick<Part, 'pose' | 'zones' | 'bodies'>,
  printer: Printer,
  filament: StoredFilament,
  trials: readonly KnownTrial[],
  book?: FamilyBook,
): PlanDocument {
  return startFromEvidence(
    newDocument({
      name: `${filament.name} only`.slice(0, 80),
      pose: part.pose,
      printer: planPrinter(printer),
      filaments: [planFilament(filament, printer)],
      zones: part.zones,
      bodies: part.bodies,
      book,
    }),
    trials,
    book,
  )
}
