import { filamentOf } from '../../bench'
import { bookOf, DECISION_RANGES, type Holding, type PlanDocument } from '../../decide'
import { bondToPart } from '../../release'
import { gapMm, mm } from '../inWords'
import type { Contact } from '../planResult'
import { leftFree } from './leftFree'
import { exceptionsFor, type PlanRemedy } from './remedy'

/** A contact that holds so many times as much as the neck it pulls at. */
export type TooStrong = { readonly contact: Contact; readonly times: number }

/** How much wider a gap is tried where a contact is too strong, in such steps, and how much at most. */
const WIDER_MM = 0.05
const STEP_MM = 0.01
const WIDEST_MM = 0.3
/** Interface lines are tried up to so many lines farther from each other. */
const APART_LINES = 4

/**
 * Ways to let contacts hold no more than the necks they pull at, each enough by the same guesses; what rules
 * them already goes on to.
 * @param holding the one they have in common
 */
export function weaker(document: PlanDocument, strong: readonly TooStrong[], holding: Holding): PlanRemedy[] {
  const { filaments, decisions } = document
  const bond = {
    ...holding,
    part: filamentOf(filaments, decisions.partFilament),
    touching: filamentOf(filaments, holding.interfaceFilament),
    lineWidthMm: decisions.lineWidthMm,
    book: bookOf(document),
  }
  const most = Math.max(...strong.map(({ times }) => times))
  const isEnough = (values: Partial<Holding>) => most * bondToPart({ ...bond, ...values }) <= bondToPart(bond)
  const shared = holding.stackMode === 'shared'
  const [least, step] = shared ? [decisions.layerHeightMm, decisions.layerHeightMm] : [WIDER_MM, STEP_MM]
  const gaps = upTo(Math.max(least, WIDEST_MM), least, step)
    .map((by) => Number((holding.upperGapMm + by).toFixed(2)))
    .filter((gap) => gap <= DECISION_RANGES.upperGapMm[1])
  const spacings = upTo(APART_LINES, 1, 1)
    .map((n) => Number((holding.interfaceSpacingMm + n * decisions.lineWidthMm).toFixed(2)))
    .filter((spacing) => spacing <= DECISION_RANGES.interfaceSpacingMm[1])
  const found: Partial<Holding>[] = []
  const wider = gaps.find((upperGapMm) => isEnough({ upperGapMm }))
  const sparser = spacings.find((interfaceSpacingMm) => isEnough({ interfaceSpacingMm }))
  if (wider !== undefined) found.push({ upperGapMm: wider })
  if (sparser !== undefined) found.push({ interfaceSpacingMm: sparser })
  // Both together where neither is enough by itself.
  for (const interfaceSpacingMm of found.length > 0 ? [] : spacings) {
    const upperGapMm = gaps.find((gap) => isEnough({ upperGapMm: gap, interfaceSpacingMm }))
    if (upperGapMm === undefined) continue
    found.push({ upperGapMm, interfaceSpacingMm })
    break
  }
  const contacts = strong.map(({ contact }) => contact)
  // What would tear the part whatever is left above it had better not be held.
  if (found.length === 0) return leftFree(document, contacts)
  const there = contacts.length === 1 ? ' there' : `, in those ${contacts.length} places`
  return found.map((values) => ({
    words: `${inWords(values)}${there}`,
    change: exceptionsFor(document, contacts, values),
  }))
}

function inWords({ upperGapMm, interfaceSpacingMm }: Partial<Holding>): string {
  const words: string[] = []
  if (upperGapMm !== undefined) words.push(`leave ${gapMm(upperGapMm)} above`)
  if (interfaceSpacingMm !== undefined) words.push(`interface lines ${mm(interfaceSpacingMm)} apart`)
  return words.join(' and ')
}

/** Numbers from the first to a last, so far apart. */
const upTo = (last: number, first: number, step: number): number[] =>
  Array.from({ length: 1 + Math.floor((last - first) / step + 1e-6) }, (_, n) => first + n * step)
