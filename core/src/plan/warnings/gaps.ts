import { clingGuess, filamentOf } from '../../bench'
import { bookOf } from '../../decide'
import { SAME_HEIGHT_MM } from '../../tolerances'
import { decide, error, gapMm, warning, type PlanWarning, type Warned } from './warning'

const WELDS_FROM_CLING = 3
const WELDING_GAP_MM = 0.05
/** What a welding pair is usually kept apart by. */
const SAFE_GAP_MM = 0.2
/** A gap that comes out this near to what was asked is the gap asked for. */
const NEAR_ENOUGH_MM = 0.02

/** Gaps that come out otherwise than asked, and pairs that weld at theirs. */
export function gapWarnings({ document, contacts, rests, recuts }: Warned): PlanWarning[] {
  const { decisions: d, filaments, evidence } = document
  const found: PlanWarning[] = []
  const missed = contacts.find(
    ({ achievedGapMm, gapMm: asked }) =>
      achievedGapMm !== null && Math.abs(achievedGapMm - asked) > SAME_HEIGHT_MM,
  )
  if (missed)
    found.push(
      warning(
        'GAP_MISSED',
        `The gap of ${gapMm(missed.gapMm)} comes out as ${gapMm(missed.achievedGapMm!)}. ${missed.why ?? ''}`.trim(),
        { atMm: [...missed.atMm, missed.zMm] },
      ),
    )
  const lower = rests.filter(({ gapMm: left, askedMm }) => Math.abs(left - askedMm) > NEAR_ENOUGH_MM)
  if (lower.length > 0) {
    const worst = lower.reduce((a, b) => (b.areaMm2 > a.areaMm2 ? b : a))
    const gaps = [...new Set(lower.map(({ gapMm: left }) => gapMm(left)))]
    found.push(
      warning(
        'LOWER_GAP_MISSED',
        `Where stands rest on the part, the lower gap of ${gapMm(worst.askedMm)} comes out as ${gaps.length > 2 ? `${gaps[0]} to ${gaps.at(-1)}` : gaps.join(' and ')}: no layer of the nozzle ends there, or the ground slopes.`,
      ),
    )
  }
  const part = filamentOf(filaments, d.partFilament)
  const touching = filamentOf(filaments, d.interfaceFilament)
  const { cling } = clingGuess(part.family, touching.family, bookOf(document))
  const isHeld = contacts.some(({ areaMm2 }) => areaMm2 > 0)
  const welds = cling >= WELDS_FROM_CLING
  if (isHeld && welds && d.upperGapMm < WELDING_GAP_MM)
    found.push(
      error(
        'WELDED_PAIR',
        `${touching.name} welds to ${part.name}; with a gap of ${gapMm(d.upperGapMm)} they become one piece.`,
        { remedies: [decide(`leave ${gapMm(SAFE_GAP_MM)} above`, { upperGapMm: SAFE_GAP_MM })] },
      ),
    )
  const window = evidence.upperGapMm
  for (const recut of recuts) {
    const becomes = [recut.becomesMm, ...(recut.orMm === null ? [] : [recut.orMm])]
    if (becomes.every((gap) => Math.abs(gap - recut.gapMm) < NEAR_ENOUGH_MM)) continue
    const closes = welds && recut.becomesMm < WELDING_GAP_MM && recut.gapMm >= WELDING_GAP_MM
    const outside =
      window !== undefined &&
      window.low !== null &&
      window.high !== null &&
      becomes.some((gap) => gap < window.low! - 1e-6 || gap > window.high! + 1e-6)
    if (!closes && !outside) continue
    found.push(
      warning(
        'RECUT',
        `A program that cuts the bodies again in plain ${gapMm(recut.layerMm)} layers makes ${becomes.map(gapMm).join(' or ')} of the gap of ${gapMm(recut.gapMm)}: ${closes ? 'support and part weld' : 'outside the release window'}. Print the G-code of this plan, or let supports share the part's layers.`,
        { remedies: [decide('share the part’s layers', { stackMode: 'shared' })] },
      ),
    )
    break
  }
  return found
}
