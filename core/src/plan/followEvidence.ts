import type { Evidence, PlanDocument } from './decisions'
import { suggest, type KnownTrial } from './suggest'

const SPOKEN_FOR = ['freeAngleDeg', 'upperGapMm'] as const
export type SpokenFor = (typeof SPOKEN_FOR)[number]

/**
 * Asks the readings anew, after a filament, a layer or a trial has changed. Values that stood where the evidence put them go along;
 * those the maker moved stay.
 */
export function followEvidence(document: PlanDocument, trials: readonly KnownTrial[]): PlanDocument {
  const { evidence, freeAngleDeg, upperGapMm } = suggest({ trials, ...document })
  const said = { freeAngleDeg, upperGapMm }
  const decisions = { ...document.decisions }
  for (const name of SPOKEN_FOR) {
    const before = document.evidence[name]
    if (before && before.value === document.decisions[name]) decisions[name] = said[name]
  }
  return { ...document, decisions, evidence }
}

/** A new document's values as the evidence has them. */
export function startFromEvidence(document: PlanDocument, trials: readonly KnownTrial[]): PlanDocument {
  const { evidence, freeAngleDeg, upperGapMm } = suggest({ trials, ...document })
  return { ...document, decisions: { ...document.decisions, freeAngleDeg, upperGapMm }, evidence }
}

/** What the readings of today say where that is not what the plan remembers. */
export function newerEvidence(document: PlanDocument, trials: readonly KnownTrial[]): Partial<Record<SpokenFor, Evidence>> {
  const { evidence } = suggest({ trials, ...document })
  const newer: Partial<Record<SpokenFor, Evidence>> = {}
  for (const name of SPOKEN_FOR) {
    const [then, now] = [document.evidence[name], evidence[name]]
    if (then && (then.value !== now.value || then.readings !== now.readings || then.source !== now.source)) newer[name] = now
  }
  return newer
}
