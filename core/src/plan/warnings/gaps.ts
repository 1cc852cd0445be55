import { clingGuess, filamentOf } from '../../bench'
import { bookOf, gapEvidenceUnder, tenderFromEvidence, type PlanDocument } from '../../decide'
import { SAME_HEIGHT_MM } from '../../tolerances'
import { recutsOf } from '../recut'
import { gapMm } from '../inWords'
import { holdOtherwise } from '../remedies'
import { after, sentencesOf, type Sentence } from './sentences'
import { error, warning, type PlanWarning, type Warned } from './warning'

const WELDS_FROM_CLING = 3
const WELDING_GAP_MM = 0.05
/** What a welding pair is usually kept apart by. */
const SAFE_GAP_MM = 0.2
/** A gap that comes out this near to what was asked is the gap asked for. */
const NEAR_ENOUGH_MM = 0.02
/** Readings that give a gap more than this chance are not contradicted by a guess alone. */
const TRUSTED_CHANCE = 0.5

/** Gaps that come out otherwise than asked, and pairs that weld at theirs. */
export function gapWarnings({ document, groups, contacts, rests, slices }: Warned): PlanWarning[] {
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
  const sentences = sentencesOf({ document, groups, contacts })
  const welded = sentences.flatMap((sentence) => weldWarning(document, sentence))
  const cutAgain = sentences.flatMap((sentence) => recutWarning(document, sentence, slices.layers))
  return [...found, ...welded, ...cutAgain.slice(0, 1)]
}

/** Part and what touches it. */
const pairOf = ({ decisions, filaments }: PlanDocument, { holding }: Sentence) =>
  [decisions.partFilament, holding.interfaceFilament].map((id) => filamentOf(filaments, id))

function welds(document: PlanDocument, sentence: Sentence): boolean {
  const [part, touching] = pairOf(document, sentence)
  return clingGuess(part.family, touching.family, bookOf(document)).cling >= WELDS_FROM_CLING
}

function weldWarning(document: PlanDocument, sentence: Sentence): PlanWarning[] {
  if (!welds(document, sentence)) return []
  const { index, contacts, under } = sentence
  const narrowest = Math.min(...contacts.map(({ achievedGapMm }) => achievedGapMm ?? Infinity))
  if (narrowest >= WELDING_GAP_MM) return []
  const [part, touching] = pairOf(document, sentence)
  const wider = holdOtherwise(document, index, `leave ${gapMm(SAFE_GAP_MM)} above`, {
    upperGapMm: SAFE_GAP_MM,
  })
  const said = evidenceUnder(document, sentence)
  const chance = said && said.source !== 'guess' ? tenderFromEvidence(said, narrowest) : null
  const guessed = `${touching.name} welds to ${part.name}; with a gap of ${gapMm(narrowest)} they become one piece`
  return [
    chance !== null && chance > TRUSTED_CHANCE
      ? warning(
          'WELDED_PAIR',
          after(
            under,
            `By the clings of the families, a guess, ${guessed}; your readings give it a chance of ${chance.toFixed(2)} to come off clean.`,
          ),
          { remedies: [wider] },
        )
      : error('WELDED_PAIR', `${under}${guessed}.`, { remedies: [wider] }),
  ]
}

const evidenceUnder = (document: PlanDocument, { index }: Sentence) =>
  gapEvidenceUnder(document, index === null ? 0 : index + 1)

/** What plain layers make of a gap, where that welds or leaves what the readings call its window. */
function recutWarning(
  document: PlanDocument,
  sentence: Sentence,
  layers: Warned['slices']['layers'],
): PlanWarning[] {
  const { index, contacts, under } = sentence
  const window = evidenceUnder(document, sentence)
  for (const { gapMm: planned, becomesMm, orMm, layerMm } of recutsOf(contacts, layers)) {
    const becomes = [becomesMm, ...(orMm === null ? [] : [orMm])]
    if (becomes.every((gap) => Math.abs(gap - planned) < NEAR_ENOUGH_MM)) continue
    const closes = welds(document, sentence) && becomesMm < WELDING_GAP_MM && planned >= WELDING_GAP_MM
    const outside =
      window !== undefined &&
      window.low !== null &&
      window.high !== null &&
      becomes.some((gap) => gap < window.low! - 1e-6 || gap > window.high! + 1e-6)
    if (!closes && !outside) continue
    return [
      warning(
        'RECUT',
        after(
          under,
          `A program that cuts the bodies again in plain ${gapMm(layerMm)} layers makes ${becomes.map(gapMm).join(' or ')} of the gap of ${gapMm(planned)}: ${closes ? 'support and part weld' : 'outside the release window'}. Print the G-code of this plan, or let supports share the part’s layers.`,
        ),
        { remedies: [holdOtherwise(document, index, 'share the part’s layers', { stackMode: 'shared' })] },
      ),
    ]
  }
  return []
}
