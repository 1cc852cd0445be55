import type { Printer, StoredFilament } from '@tender/contract'
import type { Decisions, Evidence, PlanChange, PlanDocument, SpokenFor } from '@tender/core/decide'
import type { FamilyBook, Filament } from '@tender/core/bench'
import type { PlanSummary } from '@tender/core/plan'
import type { ReleaseCheck } from '@tender/core/release'
import { createContext, use } from 'react'
import type { Past } from './usePast'

/** What every token of the letter needs to know of the plan it belongs to. */
export type PlanSetting = {
  readonly document: PlanDocument
  readonly summary: PlanSummary | null
  /** Which sentence of the letter its tokens stand in: 0 the letter itself, then its exceptions. */
  readonly holding: number
  /** What drawings of the result are asked by; null while there is none. */
  readonly resultId: string | null
  readonly meshKey: string | undefined
  readonly printers: readonly Printer[]
  readonly filaments: readonly StoredFilament[]
  /** What the maker knows of families. */
  readonly book: FamilyBook | undefined
  /** Where the values of a plan come from, as the token's sentence sees it. */
  readonly evidenceOf: (document: PlanDocument) => PlanDocument['evidence']
  /** What the readings of today say where that differs from what the plan remembers. */
  readonly newer: Partial<Record<SpokenFor, Evidence>>
  /** The plan as a change would leave it: what a card shows and a key does come from the same. */
  readonly after: (change: PlanChange) => PlanDocument
  readonly change: (change: PlanChange) => void
  readonly decide: (decisions: Partial<Decisions>) => void
  /** A filament of the bench as the plan would bring it along. */
  readonly broughtAlong: (filament: StoredFilament) => Filament
  readonly takeNewer: () => void
  /** Changes of the plan taken back, and made again. */
  readonly past: Past
}

export const PlanContext = createContext<PlanSetting | null>(null)

/** How the stands of the plan come off; null while that is not known. */
export const ReleaseContext = createContext<ReleaseCheck | null>(null)

export function usePlanSetting(): PlanSetting {
  const setting = use(PlanContext)
  if (!setting) throw new Error('A token stands outside its plan.')
  return setting
}
