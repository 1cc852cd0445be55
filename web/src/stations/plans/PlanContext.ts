import type { Printer, StoredFilament } from '@tender/contract'
import type { Decisions, Evidence, PlanDocument, PlanSummary, SpokenFor } from '@tender/core/plan'
import type { KnownTrial } from '@tender/core/trial'
import { createContext, use } from 'react'

/** What every token of the letter needs to know of the plan it belongs to. */
export type PlanSetting = {
  readonly document: PlanDocument
  readonly summary: PlanSummary | null
  readonly meshKey: string | undefined
  readonly printers: readonly Printer[]
  readonly filaments: readonly StoredFilament[]
  readonly trials: readonly KnownTrial[]
  /** What the readings of today say where that differs from what the plan remembers. */
  readonly newer: Partial<Record<SpokenFor, Evidence>>
  readonly decide: (change: Partial<Decisions>) => void
  readonly useFilament: (role: 'partFilament' | 'standFilament' | 'interfaceFilament', filament: StoredFilament) => void
  readonly usePrinter: (printer: Printer) => void
  readonly takeNewer: () => void
}

export const PlanContext = createContext<PlanSetting | null>(null)

export function usePlanSetting(): PlanSetting {
  const setting = use(PlanContext)
  if (!setting) throw new Error('A token stands outside its plan.')
  return setting
}
