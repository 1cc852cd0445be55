import { planFilament, planPrinter, type Part, type Printer, type StoredFilament } from '@tender/contract'
import { plainFilament, type Family, type FamilyBook } from '@tender/core/bench'
import { newDocument, startFromEvidence, type PlanDocument } from '@tender/core/decide'
import type { KnownTrial } from '@tender/core/trial'

/** The filament that most is known about. */
export function bestKnown(
  filaments: readonly StoredFilament[],
  trials: readonly KnownTrial[],
): StoredFilament | undefined {
  const readings = (id: string) =>
    trials
      .filter((trial) => trial.conditions.partFilament.id === id)
      .reduce((sum, trial) => sum + trial.readings.length, 0)
  return filaments.toSorted((a, b) => readings(b.id) - readings(a.id))[0]
}

const PLAIN_COLOUR = '#a5a8b4'

/**
 * A first plan: part and supports in one filament, every value where the readings put it.
 * @param printer a plain one when the bench has none
 * @param filament of the bench, or the family that a plain one is guessed of
 */
export function firstDocument(
  part: Pick<Part, 'pose' | 'zones' | 'bodies'>,
  printer: Printer | undefined,
  filament: StoredFilament | Family,
  trials: readonly KnownTrial[],
  book?: FamilyBook,
): PlanDocument {
  const own =
    typeof filament === 'string'
      ? plainFilament(`Plain ${filament}`, filament, PLAIN_COLOUR, book)
      : planFilament(filament, printer)
  return startFromEvidence(
    newDocument({
      name: `${own.name} only`.slice(0, 80),
      pose: part.pose,
      ...(printer && { printer: planPrinter(printer) }),
      filaments: [own],
      zones: part.zones,
      bodies: part.bodies,
      book,
    }),
    trials,
    book,
  )
}
