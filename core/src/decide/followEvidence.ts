import type { FamilyBook } from '../bench'
import type { KnownTrial } from '../trial'
import type { Decisions } from './decisions'
import type { PlanDocument } from './document'
import { SPOKEN_FOR, type Evidence, type SpokenFor } from './evidence'
import { leansSomewhere, type Exception } from './exceptions'
import { suggest, suggestUpperGap, type SuggestInput } from './suggest'

/**
 * Asks the readings anew, after a filament, a layer or a trial has changed. Values that stood where the
 * evidence put them go along; those the maker moved stay. Exceptions follow the evidence of their own
 * pairing.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function followEvidence(
  document: PlanDocument,
  trials: readonly KnownTrial[],
  book?: FamilyBook,
): PlanDocument {
  const input = { trials, ...document, book }
  const evidence = suggest(input)
  const decisions: { -readonly [D in keyof Decisions]: Decisions[D] } = { ...document.decisions }
  for (const name of SPOKEN_FOR) {
    const before = document.evidence[name]
    if (before && before.value === document.decisions[name]) decisions[name] = evidence[name].value
  }
  if (decisions.sideAnglesDeg) decisions.sideAnglesDeg = evidence.freeAngleDeg.sidesDeg ?? null
  const exceptions = document.exceptions.map((exception) => withEvidence(exception, input))
  return { ...document, decisions, exceptions, evidence }
}

/** An exception that touches the part with another filament has a gap, and evidence, of its own. */
function withEvidence(exception: Exception, input: SuggestInput): Exception {
  const { interfaceFilament } = exception
  if (interfaceFilament === undefined || interfaceFilament === input.decisions.interfaceFilament) {
    const { evidence: _, ...rest } = exception
    return rest
  }
  const upperGapMm = suggestUpperGap({ ...input, decisions: { ...input.decisions, interfaceFilament } })
  const follows =
    exception.upperGapMm === undefined || exception.upperGapMm === exception.evidence?.upperGapMm?.value
  return {
    ...exception,
    evidence: { upperGapMm },
    upperGapMm: follows ? upperGapMm.value : exception.upperGapMm,
  }
}

/**
 * A new document's values as the evidence has them.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function startFromEvidence(
  document: PlanDocument,
  trials: readonly KnownTrial[],
  book?: FamilyBook,
): PlanDocument {
  const evidence = suggest({ trials, ...document, book })
  const values = Object.fromEntries(SPOKEN_FOR.map((name) => [name, evidence[name].value]))
  return { ...document, decisions: { ...document.decisions, ...values }, evidence }
}

/**
 * What the readings of today say where that is not what the plan remembers.
 * @throws FILAMENT_UNKNOWN when the plan names a filament it does not bring along
 */
export function newerEvidence(
  document: PlanDocument,
  trials: readonly KnownTrial[],
  book?: FamilyBook,
): Partial<Record<SpokenFor, Evidence>> {
  const evidence = suggest({ trials, ...document, book })
  const newer: Partial<Record<SpokenFor, Evidence>> = {}
  for (const name of SPOKEN_FOR) {
    // What nothing hangs on is not news.
    if (name === 'leanDeg' && !leansSomewhere(document)) continue
    const [then, now] = [document.evidence[name], evidence[name]]
    if (then && (then.value !== now.value || then.readings !== now.readings || then.source !== now.source))
      newer[name] = now
  }
  return newer
}
