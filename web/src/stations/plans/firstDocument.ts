import { planFilament, type Part, type Printer, type StoredFilament } from '@tender/contract'
import type { FamilyBook } from '@tender/core/bench'
import { DEFAULT_DECISIONS, startFromEvidence, type PlanDocument } from '@tender/core/plan'
import type { KnownTrial } from '@tender/core/trial'

/** The filament that most is known about. */
export function bestKnown(filaments: readonly StoredFilament[], trials: readonly KnownTrial[]): StoredFilament {
  const readings = (name: string) => trials.filter((trial) => trial.conditions.partFilament === name).reduce((sum, trial) => sum + trial.readings.length, 0)
  return filaments.toSorted((a, b) => readings(b.name) - readings(a.name))[0]
}

/** A first plan: part and supports in one filament, every value where the readings put it. */
export function firstDocument(part: Pick<Part, 'pose' | 'zones' | 'bodies'>, printer: Printer, filament: StoredFilament, trials: readonly KnownTrial[], book?: FamilyBook): PlanDocument {
  const { id: _, revision: __, updatedAt: ___, loaded, ...fields } = printer
  const { name } = filament
  return startFromEvidence(
    {
      format: 'tender-plan',
      version: 1,
      name: `${name} only`,
      pose: part.pose,
      printer: fields,
      filaments: [planFilament(filament, { loaded })],
      evidence: {},
      zones: part.zones,
      bodies: part.bodies,
      decisions: { ...DEFAULT_DECISIONS, partFilament: name, standFilament: name, interfaceFilament: name },
    },
    trials,
    book,
  )
}
