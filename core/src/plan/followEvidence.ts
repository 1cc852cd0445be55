import type { FamilyBook } from '../bench'
import type { KnownTrial } from '../trial'
import { SPOKEN_FOR, type Decisions, type Evidence, type PlanDocument, type SpokenFor } from './decisions'
import { suggest } from './suggest'

/**
 * Asks the readings anew, after a filament, a layer or a trial has changed. Values that stood where the evidence put them go along;
 * those the maker moved stay.
 */
export function followEvidence(document: PlanDocument, trials: readonly KnownTrial[], book?: FamilyBook): PlanDocument {
  const evidence = suggest({ trials, ...document, book })
  const decisions: { -readonly [D in keyof Decisions]: Decisions[D] } = { ...document.decisions }
  for (const name of SPOKEN_FOR) {
    const before = document.evidence[name]
    if (before && before.value === document.decisions[name]) decisions[name] = evidence[name].value
  }
  if (decisions.sideAnglesDeg) decisions.sideAnglesDeg = evidence.freeAngleDeg.sidesDeg ?? null
  return { ...document, decisions, evidence }
}

/** A new document's values as the evidence has them. */
export function startFromEvidence(document: PlanDocument, trials: readonly KnownTrial[], book?: FamilyBook): PlanDocument {
  const evidence = suggest({ trials, ...document, book })
  const values = Object.fromEntries(SPOKEN_FOR.map((name) => [name, evidence[name].value]))
  return { ...document, decisions: { ...document.decisions, ...values }, evidence }
}

/** What the readings of today say where that is not what the plan remembers. */
export function newerEvidence(document: PlanDocument, trials: readonly KnownTrial[], book?: FamilyBook): Partial<Record<SpokenFor, Evidence>> {
  const evidence = suggest({ trials, ...document, book })
  const newer: Partial<Record<SpokenFor, Evidence>> = {}
  for (const name of SPOKEN_FOR) {
    const [then, now] = [document.evidence[name], evidence[name]]
    if (then && (then.value !== now.value || then.readings !== now.readings || then.source !== now.source)) newer[name] = now
  }
  return newer
}
